/** What stands within a sentence: a name, a number, or words that were made elsewhere. */
export type Shown = string | number;
