import { codesHtml, type SiteCode } from '../codes/index.js';
import { fillNav, navFromText, pagesIn } from './nav.js';

/** Where parts of the frame come in a page that is rendered apart, in the order in which they stand there. */
export const SLOTS = ['icons', 'head', 'above', 'below'] as const;
export type Slot = (typeof SLOTS)[number];

/** What stands around the content of a page, as HTML. */
export interface Frame extends Readonly<Record<Slot, string>> {
  /** The ways through its site (`Nav`), blank where it has none. */
  readonly nav: string;
  /** The codes of its site (`SiteCodes`), blank where it has none. */
  readonly codes: string;
  /** Files of the root of its host (`RootTexts`), blank where it has none. */
  readonly root: string;
}

/** Codes that run on a page. */
export interface RunningCodes {
  readonly codes: readonly SiteCode[];
  readonly loader: string;
}

/** A frame with everything in it that differs from page to page. */
export interface FilledFrame extends Frame {
  /** The page it stands around, `null` where it is the same around many. */
  readonly pageId: number | null;
  /** For visitors alone: whatever else shows a page runs none. */
  readonly running: RunningCodes | null;
}

export const EMPTY_FRAME: FilledFrame = {
  ...{ icons: '', head: '', above: '', below: '', nav: '', codes: '', root: '' },
  ...{ pageId: null, running: null },
};

/** A slot as it stands in a page. No text of a page can look like one: whatever people write is escaped. */
export const slotMark = (slot: Slot): string => `<!--~${slot}-->`;

/** Where a link of a part is marked on the page it leads to, within its tag. */
export const currentMark = (pageId: number): string => `<!--~page-${pageId}-->`;
const MARKS = /<!--~page-(\d+)-->/g;

/** The pages a frame has a mark for: around all others it is the same. */
export function markedPages(frame: Frame): Set<number> {
  const marked = SLOTS.flatMap((slot) => [...frame[slot].matchAll(MARKS)].map(([, id]) => Number(id)));
  const nav = navFromText(frame.nav);
  return new Set(nav ? [...marked, ...pagesIn(nav)] : marked);
}

/** A frame as it stands around a page: links to that page say so (`aria-current`), menus and ways are filled in. */
export function frameAround(frame: Frame, pageId: number | null, running: RunningCodes | null = null): FilledFrame {
  const nav = navFromText(frame.nav);
  const filled = (slot: Slot) =>
    fillNav(frame[slot], nav, pageId).replace(MARKS, (_, id: string) =>
      Number(id) === pageId ? ' aria-current="page"' : '',
    );
  return { ...frame, above: filled('above'), below: filled('below'), pageId, running };
}

/** A page cut at its slots: what stands before each of those it has, and what stands behind the last. */
export interface CutPage {
  readonly before: readonly (readonly [text: string, slot: Slot])[];
  readonly rest: string;
  /** What its root element says it is written in. */
  readonly language: string;
}

const LANGUAGE = /^<!doctype html><html lang="([\w-]+)"/;

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
  return { before, rest: page.slice(at), language: LANGUAGE.exec(page)?.[1] ?? 'en' };
}

/**
 * The page as it is sent: its content with the frame around it, and the ways through its site where it asks for them. The
 * same for visitors, the canvas, previews, *as of*, small pictures, the export and what is weighed.
 */
export function compose({ before, rest, language }: CutPage, frame: FilledFrame): string {
  const nav = navFromText(frame.nav);
  const { running } = frame;
  const added = running ? codesHtml(running.codes, running.loader, language) : null;
  const behind: Partial<Record<Slot, string>> = added ? { head: added.head, below: added.end } : {};
  const own = (text: string) => fillNav(text, nav, frame.pageId);
  let whole = '';
  for (const [text, slot] of before) whole += own(text) + frame[slot] + (behind[slot] ?? '');
  return whole + own(rest);
}
