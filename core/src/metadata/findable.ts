import type { Robots } from '../fields/types.js';

/** Why a page can't be found by search engines, the first that holds. */
export const UNFOUND = [
  'not-live',
  'redirected',
  'not-found-page',
  'own-host',
  'robots-txt',
  'noindex',
  'noindex-above',
  'unavailable',
  'unavailable-above',
  'elsewhere',
  'unlinked',
] as const;
export type Unfound = (typeof UNFOUND)[number];

/** What of robots keeps a page out while they hold. */
export type Hiding = Extract<Unfound, 'noindex' | 'unavailable'>;

/** What robots come to for a while: that something keeps pages out, or `null` where they ask to be found. */
export interface HiddenStretch {
  readonly from: number;
  readonly until: number | null;
  readonly why: Hiding | null;
}

/** What robots come to while they are said, stretch by stretch. */
export function stretchesOf(robots: Robots, from: number, until: number | null): HiddenStretch[] {
  const over = robots.unavailableAfter?.at ?? Infinity;
  if (robots.noindex || over <= from) return [{ from, until, why: robots.noindex ? 'noindex' : 'unavailable' }];
  if (over >= (until ?? Infinity)) return [{ from, until, why: null }];
  return [
    { from, until: over, why: null },
    { from: over, until, why: 'unavailable' },
  ];
}

/** What is known of a page at an instant. */
export interface FindFacts {
  readonly isLive: boolean;
  /** Its address redirects where it is no more. */
  readonly isRedirected: boolean;
  readonly isNotFoundPage: boolean;
  /** It lies on the portfolio's host under the name of the installation, which is kept out of search. */
  readonly isOwnHost: boolean;
  /** Lines of `robots.txt` keep crawlers from asking for it. */
  readonly isForbidden: boolean;
  /** What keeps it out, of what is asked of search engines; of what it asks itself, or of what is said further up. */
  readonly hiding: Hiding | null;
  readonly isHidingItself: boolean;
  /** It names another page instead, and that one is there. */
  readonly isElsewhere: boolean;
  /** Whether anything that is live leads to it; home pages are found by their address. */
  readonly isLedTo: boolean;
}

/** Why a page can't be found at an instant; `null` where it can. */
export function unfoundOf(facts: FindFacts): Unfound | null {
  if (!facts.isLive) return facts.isRedirected ? 'redirected' : 'not-live';
  if (facts.isNotFoundPage) return 'not-found-page';
  if (facts.isOwnHost) return 'own-host';
  if (facts.isForbidden) return 'robots-txt';
  if (facts.hiding) return facts.isHidingItself ? facts.hiding : `${facts.hiding}-above`;
  if (facts.isElsewhere) return 'elsewhere';
  return facts.isLedTo ? null : 'unlinked';
}
