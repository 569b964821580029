import { endOf, type Instant, type Interval } from '../time/index.js';
import { SLOTS, type Frame, type Slot } from './compose.js';

/** The parts of a frame in their order, each by the SHA-256 of what it holds. */
export interface FrameParts extends Readonly<Record<Slot, readonly string[]>> {
  /** The ways through its site, where it has menus or a page tree. */
  readonly nav?: readonly string[];
  /** The codes of its site, where it has any. */
  readonly codes?: readonly string[];
  /** Files of the root of its host, where it has any. */
  readonly root?: readonly string[];
}

/** What of a frame changes by itself: its slots, the ways through its site, its codes, and files of the root. */
export const LINE_SLOTS = [...SLOTS, 'nav', 'codes', 'root'] as const;
export type LineSlot = (typeof LINE_SLOTS)[number];

/** What stands in one slot over time, for all places that share it: a change of it is one stretch more, however many these are. */
export interface FrameLine {
  readonly id: number;
  /** In their order; where there is none, nothing stands there. */
  readonly stretches: readonly LineStretch[];
}

export interface LineStretch {
  readonly during: Interval;
  /** Hashes of what stands there, in its order. */
  readonly parts: readonly string[];
}

export type FrameLines = Readonly<Record<LineSlot, number>>;

/** Which lines stand around the pages at a path of a host and below it, during a stretch. */
export interface FrameRoute {
  readonly basePath: string;
  /** Blank for the frame of the site; else that of pages of which more is said. */
  readonly variant: string;
  readonly during: Interval;
  readonly lines: FrameLines;
}

/** The parts on lines at an instant, and from when until when they are the same. */
export function partsOnLines(
  lines: FrameLines,
  lineOf: (id: number) => FrameLine | undefined,
  at: Instant,
): { readonly parts: FrameParts; readonly from: number; readonly until: number } {
  let [from, until] = [-Infinity, Infinity];
  const parts = {} as Record<LineSlot, readonly string[]>;
  for (const slot of LINE_SLOTS) {
    const stretches = lineOf(lines[slot])?.stretches ?? [];
    const next = stretches.findIndex(({ during }) => at < endOf(during));
    const held = next < 0 ? undefined : stretches[next];
    const holds = held !== undefined && held.during.from <= at;
    const before = stretches[(next < 0 ? stretches.length : next) - 1];
    from = Math.max(from, holds ? held.during.from : before ? endOf(before.during) : -Infinity);
    until = Math.min(until, held ? (holds ? endOf(held.during) : held.during.from) : Infinity);
    parts[slot] = holds ? held.parts : [];
  }
  return { parts, from, until };
}

/** A page around which something else stands than around its site, during a stretch. */
export interface FramedPage {
  readonly pageId: number;
  readonly variant: string;
  readonly during: Interval;
}

/** The hashes of all parts, in the order in which they stand. */
export const partsOf = (parts: FrameParts): string[] => LINE_SLOTS.flatMap((slot) => parts[slot] ?? []);

/** A frame of its parts; a part that `textOf` does not know is left out. */
export function frameOf(parts: FrameParts, textOf: (hash: string) => string | undefined): Frame {
  const joined = (slot: LineSlot) => (parts[slot] ?? []).map((hash) => textOf(hash) ?? '').join('');
  const [icons, head, above, below] = SLOTS.map(joined) as [string, string, string, string];
  return { icons, head, above, below, nav: joined('nav'), codes: joined('codes'), root: joined('root') };
}

const contains = (basePath: string, path: string) =>
  basePath === '/' || path === basePath || (path.startsWith(basePath) && path.charCodeAt(basePath.length) === 47);

/** Routes of one host, ready to be asked: the longest base path first, and of one base path the newest. */
export const inOrder = <Route extends FrameRoute>(routes: readonly Route[]): Route[] =>
  [...routes].sort((a, b) => b.basePath.length - a.basePath.length || b.during.from - a.during.from);

const holdsAt = (at: Instant) => (one: { readonly during: Interval }) =>
  one.during.from <= at && at < endOf(one.during);

/** What stands around a page apart from its site; blank where nothing does. `pages`: those of this page alone. */
export const variantAt = (pages: readonly FramedPage[], at: Instant): string => pages.find(holdsAt(at))?.variant ?? '';

/**
 * The frame that holds at a path and an instant, of routes in order; `null` where there is none. A variant that is not
 * there gives way to the frame of the site.
 */
export function frameAt<Route extends FrameRoute>(
  routes: readonly Route[],
  path: string,
  at: Instant,
  variant: string,
): Route | null {
  const holds = holdsAt(at);
  const find = (wanted: string) =>
    routes.find((route) => route.variant === wanted && holds(route) && contains(route.basePath, path)) ?? null;
  return (variant ? find(variant) : null) ?? find('');
}
