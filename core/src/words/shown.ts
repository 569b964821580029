/** What stands within a sentence: a name, a number, or words that were made elsewhere. */
export type Shown = string | number;

/** "1 page is" or "12 pages are": a number with what belongs to one, or to any other. */
export const counted = (count: Shown, one: string, more: string) => `${count} ${String(count) === '1' ? one : more}`;
