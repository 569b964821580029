/** Where parts of the frame come in a page that is rendered apart, in the order in which they stand there. */
export const SLOTS = ['icons', 'head', 'above', 'below'] as const;
export type Slot = (typeof SLOTS)[number];

/** What stands around the content of a page, as HTML. */
export type Frame = Readonly<Record<Slot, string>>;

export const EMPTY_FRAME: Frame = { icons: '', head: '', above: '', below: '' };

/** A slot as it stands in a page. No text of a page can look like one: whatever people write is escaped. */
export const slotMark = (slot: Slot): string => `<!--~${slot}-->`;

/** Where a link of a part is marked on the page it leads to, within its tag. */
export const currentMark = (pageId: number): string => `<!--~page-${pageId}-->`;
const MARKS = /<!--~page-(\d+)-->/g;

/** The pages a frame has a mark for: around all others it is the same. */
export const markedPages = (frame: Frame): Set<number> =>
  new Set(SLOTS.flatMap((slot) => [...frame[slot].matchAll(MARKS)].map(([, id]) => Number(id))));

/** A frame as it stands around a page: links to that page say so (`aria-current`), the others say nothing. */
export function frameAround(frame: Frame, pageId: number | null): Frame {
  const filled = (slot: Slot) =>
    frame[slot].replace(MARKS, (_, id: string) => (Number(id) === pageId ? ' aria-current="page"' : ''));
  return { icons: frame.icons, head: frame.head, above: filled('above'), below: filled('below') };
}

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
