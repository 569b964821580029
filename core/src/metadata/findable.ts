/** Why a page can't be found by search engines, the first that holds. */
export const UNFOUND = [
  'not-live',
  'redirected',
  'not-found-page',
  'own-host',
  'noindex',
  'unavailable',
  'unlinked',
] as const;
export type Unfound = (typeof UNFOUND)[number];

/** What of a page's own robots keeps it out while they hold. */
export type Hiding = Extract<Unfound, 'noindex' | 'unavailable'>;

/** What is known of a page at an instant. */
export interface FindFacts {
  readonly isLive: boolean;
  /** Its address redirects where it is no more. */
  readonly isRedirected: boolean;
  readonly isNotFoundPage: boolean;
  /** It lies on the portfolio's host under the name of the installation, which is kept out of search. */
  readonly isOwnHost: boolean;
  /** What it asks of search engines itself. */
  readonly hiding: Hiding | null;
  /** Whether anything that is live leads to it; home pages are found by their address. */
  readonly isLedTo: boolean;
}

/** Why a page can't be found at an instant; `null` where it can. */
export function unfoundOf(facts: FindFacts): Unfound | null {
  if (!facts.isLive) return facts.isRedirected ? 'redirected' : 'not-live';
  if (facts.isNotFoundPage) return 'not-found-page';
  if (facts.isOwnHost) return 'own-host';
  return facts.hiding ?? (facts.isLedTo ? null : 'unlinked');
}
