import type { Answer, PageId, PlanRowId, PortfolioId, RedirectStatus, RevisionId } from '../plan/index.js';
import type { Instant, Interval } from '../time/index.js';

/** A place visitors can ask for: host in its one form and normalised path. */
export interface Address {
  readonly host: string;
  readonly path: string;
}

/** A live page as an answer. `artifact` is the SHA-256 of its rendered bytes once it is rendered. */
export interface RoutePage {
  readonly kind: 'page';
  readonly pageId: PageId;
  readonly revisionId: RevisionId;
  readonly claimId: PlanRowId;
  readonly artifact: string | null;
  /** From when on it asks search engines to leave it out; said of rendered pages only. */
  readonly hiddenFrom?: Instant;
}

/**
 * Answers of the layer `after` remember whose they are, so that figures follow the page, and where a release is judged
 * by what they were made.
 */
export type RouteAnswer = RoutePage | (Answer & { readonly pageId?: PageId | null; readonly sourceId?: PlanRowId });

/** A claim made ready for the edge: one answer at one path during one stretch, in its layer. */
export interface Route {
  readonly path: string;
  readonly layer: 'page' | 'after';
  readonly during: Interval;
  readonly answer: RouteAnswer;
}

/** A site's base path on a host during a stretch, and where the site's primary address is then. */
export interface SiteRoute {
  readonly basePath: string;
  readonly during: Interval;
  readonly isPrimary: boolean;
  readonly primary: { readonly host: string; readonly basePath: string } | null;
}

/** Where a page lies on a host over time, live or not: what a redirect by reference needs. */
export interface PageRoute {
  readonly pageId: PageId;
  readonly path: string;
  readonly during: Interval;
}

/** Everything the edge must know of one host. `version` rises with every change. */
export interface HostRoutes {
  readonly host: string;
  readonly version: number;
  /** Addresses outside are followed where they name a host of the same portfolio. */
  readonly portfolioId: PortfolioId;
  readonly routes: readonly Route[];
  readonly sites: readonly SiteRoute[];
  readonly pages: readonly PageRoute[];
}

/** What a visitor gets. A redirect is always the only hop. */
export type Resolution =
  | RoutePage
  | {
      readonly kind: 'redirect';
      readonly status: RedirectStatus;
      readonly to: RedirectPlace;
      readonly pageId: PageId | null;
    }
  | { readonly kind: 'gone'; readonly pageId: PageId | null }
  | { readonly kind: 'not-found'; readonly pageId: PageId | null; readonly page: RoutePage | null }
  | { readonly kind: 'unknown-host' };

export type RedirectPlace =
  | {
      readonly kind: 'address';
      readonly host: string;
      readonly path: string;
      readonly pageId: PageId;
      /** Query and fragment that the redirect itself brings. */
      readonly rest: string;
    }
  | { readonly kind: 'outside'; readonly url: string };
