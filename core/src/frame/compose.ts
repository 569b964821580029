/** Where parts of the frame come in a page that is rendered apart, in the order in which they stand there. */
export const SLOTS = ['icons', 'head', 'above', 'below'] as const;
export type Slot = (typeof SLOTS)[number];

/** What stands around the content of a page, as HTML. */
export type Frame = Readonly<Record<Slot, string>>;

export const EMPTY_FRAME: Frame = { icons: '', head: '', above: '', below: '' };

/** A slot as it stands in a page. No text of a page can look like one: whatever people write is escaped. */
export const slotMark = (slot: Slot): string => `<!--~${slot}-->`;

/** A page cut at its slots: what stands before each of those it has, and what stands behind the last. */
export interface CutPage {
  readonly before: readonly (readonly [text: string, slot: Slot])[];
  readonly rest: string;
}

/** Cuts a page at its slots, once for all frames it is put into. A page without slots is whole as it is. */
export function cutPage(page: string): CutPage {
  const before: (readonly [string, Slot])[] = [];
  let at = 0;
  for (const slot of SLOTS) {
    const mark = slotMark(slot);
    const found = page.indexOf(mark, at);
    if (found < 0) continue;
    before.push([page.slice(at, found), slot]);
    at = found + mark.length;
  }
  return { before, rest: page.slice(at) };
}

/**
 * The page as it is sent: its content with the frame around it. The same for visitors, the canvas, previews, *as of*,
 * small pictures, the export and what is weighed.
 */
export function compose({ before, rest }: CutPage, frame: Frame): string {
  let whole = '';
  for (const [text, slot] of before) whole += text + frame[slot];
  return whole + rest;
}
