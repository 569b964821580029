import type { Instant, Interval } from '../time/index.js';
import type { HostId, PageId, PlanRowId, RevisionId, SiteId } from './ids.js';

/** A path on a host, both normalised. */
export interface AddressKey {
  readonly hostId: HostId;
  readonly path: string;
}

export type RedirectStatus = 301 | 302;
export type RedirectTarget =
  { readonly kind: 'page'; readonly pageId: PageId } | { readonly kind: 'outside'; readonly url: string };

/** What an address gives where no page is live. */
export type Answer =
  | { readonly kind: 'redirect'; readonly target: RedirectTarget; readonly status: RedirectStatus }
  | { readonly kind: 'gone' }
  | { readonly kind: 'not-found' };

/** What an end leaves at the address the page has there. Its address is derived, never stored with it. */
export interface Leaving<What = Answer> {
  readonly answer: What;
  /** Its identity: settles what rank and kind leave equal. It stays with it through cuts, shifts and undo. */
  readonly order: number;
  /** Where an undo ended it; `null` where it holds on. */
  readonly until: Instant | null;
}

/** The default of a move: its old address leads to the page, wherever that goes. */
export interface Follow {
  readonly kind: 'follow';
}

/** Which site and path a page has during a period, and what its end leaves where the page is live there till then. */
export interface Placement {
  readonly id: PlanRowId;
  readonly pageId: PageId;
  readonly siteId: SiteId;
  readonly path: string;
  readonly during: Interval;
  /** `null`: nothing, as of an end that is open. */
  readonly leaves: Leaving<Answer | Follow> | null;
}

/** Revision R of a page is on the air from A (inclusive) until B (exclusive, or open), and what B leaves. */
export interface LivePeriod {
  readonly id: PlanRowId;
  readonly pageId: PageId;
  readonly revisionId: RevisionId;
  readonly during: Interval;
  /** `null`: nothing, as of an end that is open or followed at once by the page itself. */
  readonly leaves: Leaving | null;
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

/** At equal starts an exact redirect holds before an afterwards, and that before a move (design rule 2). */
export type AnswerKind = 'exact' | 'afterwards' | 'move';

interface RankedAnswer {
  readonly kind: AnswerKind;
  readonly pageId: PageId | null;
  readonly during: Interval;
  readonly answer: Answer;
  /** Its first start. Where answers lie on each other the one that started latest holds; an undo keeps it. */
  readonly rank: Instant;
  readonly order: number;
}

/**
 * What is said of a page's address from an instant on: that it is taken off, or what comes after it once it is over.
 * Also what an undo puts back where no end is there to derive it from.
 */
export interface Statement extends RankedAnswer {
  readonly id: PlanRowId;
  /** The address it is said of, where that is not the one the page has at `rank`. */
  readonly place: AddressKey | null;
}

/** An answer at one address from an instant on: derived from what ends leave and from what is said. */
export interface AfterAnswer extends RankedAnswer, AddressKey {}

/** Everything of one page that decides what visitors get: the input that releases change and undo puts back. */
export interface PagePlan {
  readonly pageId: PageId;
  readonly placements: readonly Placement[];
  readonly periods: readonly LivePeriod[];
  readonly statements: readonly Statement[];
}

interface ClaimPlace extends AddressKey {
  readonly during: Interval;
  /** What it comes from: the row of a live period, or the order of an answer. */
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
