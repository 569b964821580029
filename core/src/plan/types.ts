import type { Instant, Interval } from '../time/index.js';
import type { HostId, PageId, PlanRowId, RevisionId, SiteId } from './ids.js';

/** A path on a host, both normalised. */
export interface AddressKey {
  readonly hostId: HostId;
  readonly path: string;
}

/** Which site and path a page has during a period. */
export interface Placement {
  readonly id: PlanRowId;
  readonly pageId: PageId;
  readonly siteId: SiteId;
  readonly path: string;
  readonly during: Interval;
}

/** Revision R of a page is on the air from A (inclusive) until B (exclusive, or open). */
export interface LivePeriod {
  readonly id: PlanRowId;
  readonly pageId: PageId;
  readonly revisionId: RevisionId;
  readonly during: Interval;
}

/** Host and base path of a site during a period; the primary one serves, the others redirect to it. */
export interface SiteAddress {
  readonly id: PlanRowId;
  readonly siteId: SiteId;
  readonly hostId: HostId;
  readonly basePath: string;
  readonly during: Interval;
  readonly isPrimary: boolean;
}

export type RedirectStatus = 301 | 302;
export type RedirectTarget =
  { readonly kind: 'page'; readonly pageId: PageId } | { readonly kind: 'outside'; readonly url: string };

/** What an address gives where no page is live. */
export type Answer =
  | { readonly kind: 'redirect'; readonly target: RedirectTarget; readonly status: RedirectStatus }
  | { readonly kind: 'gone' }
  | { readonly kind: 'not-found' };

/** At equal starts an exact redirect holds before an afterwards, and that before a move (design rule 2). */
export type AnswerKind = 'exact' | 'afterwards' | 'move';

/** An answer at one address from an instant on: an afterwards, a redirect a move left, or an exact redirect. */
export interface AfterAnswer {
  readonly id: PlanRowId;
  readonly kind: AnswerKind;
  readonly pageId: PageId | null;
  readonly hostId: HostId;
  readonly path: string;
  readonly during: Interval;
  readonly answer: Answer;
  /** Its first start. Where answers lie on each other the one that started latest holds; an undo keeps it. */
  readonly rank: Instant;
  /** Its first identity: settles what rank and kind leave equal; an undo keeps it too. */
  readonly order: number;
}

/** Everything of one page that decides what visitors get: the input that releases change and undo puts back. */
export interface PagePlan {
  readonly pageId: PageId;
  readonly placements: readonly Placement[];
  readonly periods: readonly LivePeriod[];
  readonly answers: readonly AfterAnswer[];
}

interface ClaimPlace extends AddressKey {
  readonly during: Interval;
  /** The row it comes from: a live period, or an answer. */
  readonly sourceId: PlanRowId;
}

/** What one address gives during one period, in one layer. */
export type Claim =
  | (ClaimPlace & { readonly layer: 'page'; readonly pageId: PageId; readonly revisionId: RevisionId })
  | (ClaimPlace & { readonly layer: 'after'; readonly pageId: PageId | null; readonly answer: Answer });

/** Where a page lies during a period, live or not. */
export interface PageAddress extends AddressKey {
  readonly pageId: PageId;
  readonly during: Interval;
}
