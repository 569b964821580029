import { endOf, type Instant, type Interval } from '../time/index.js';
import { SLOTS, type Frame, type Slot } from './compose.js';

/** The parts of a frame in their order, each by the SHA-256 of what it holds. */
export interface FrameParts extends Readonly<Record<Slot, readonly string[]>> {
  /** The ways through its site, where it has menus or a page tree. */
  readonly nav?: readonly string[];
}

/** Which frame stands around the pages at a path of a host and below it, during a stretch. */
export interface FrameRoute {
  readonly basePath: string;
  /** Blank for the frame of the site; else that of pages of which more is said. */
  readonly variant: string;
  readonly during: Interval;
  readonly parts: FrameParts;
}

/** A page around which something else stands than around its site, during a stretch. */
export interface FramedPage {
  readonly pageId: number;
  readonly variant: string;
  readonly during: Interval;
}

/** The hashes of all parts, in the order in which they stand. */
export const partsOf = (parts: FrameParts): string[] => [...SLOTS.flatMap((slot) => parts[slot]), ...(parts.nav ?? [])];

/** A frame of its parts; a part that `textOf` does not know is left out. */
export function frameOf(parts: FrameParts, textOf: (hash: string) => string | undefined): Frame {
  const joined = (slot: Slot | 'nav') => (parts[slot] ?? []).map((hash) => textOf(hash) ?? '').join('');
  const [icons, head, above, below] = SLOTS.map(joined) as [string, string, string, string];
  return { icons, head, above, below, nav: joined('nav') };
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
