import { endOf, type Instant, type Interval } from '../time/index.js';
import { SLOTS, type Frame, type Slot } from './compose.js';

/** The parts of a frame in their order, each by the SHA-256 of what it holds. */
export type FrameParts = Readonly<Record<Slot, readonly string[]>>;

/** Which frame stands around the pages at a path of a host and below it, during a stretch. */
export interface FrameRoute {
  readonly basePath: string;
  readonly during: Interval;
  readonly parts: FrameParts;
}

/** The hashes of all parts, in the order in which they stand. */
export const partsOf = (parts: FrameParts): string[] => SLOTS.flatMap((slot) => parts[slot]);

/** A frame of its parts; a part that `textOf` does not know is left out. */
export function frameOf(parts: FrameParts, textOf: (hash: string) => string | undefined): Frame {
  const joined = (slot: Slot) => parts[slot].map((hash) => textOf(hash) ?? '').join('');
  return { icons: joined('icons'), head: joined('head'), above: joined('above'), below: joined('below') };
}

const contains = (basePath: string, path: string) =>
  basePath === '/' || path === basePath || (path.startsWith(basePath) && path.charCodeAt(basePath.length) === 47);

/** Routes of one host, ready to be asked: the longest base path first, and of one base path the newest. */
export const inOrder = <Route extends FrameRoute>(routes: readonly Route[]): Route[] =>
  [...routes].sort((a, b) => b.basePath.length - a.basePath.length || b.during.from - a.during.from);

/** The frame that holds at a path and an instant, of routes in order; `null` where there is none. */
export function frameAt<Route extends FrameRoute>(routes: readonly Route[], path: string, at: Instant): Route | null {
  for (const route of routes)
    if (route.during.from <= at && at < endOf(route.during) && contains(route.basePath, path)) return route;
  return null;
}
