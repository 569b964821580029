import type { PageDocument, Start } from '@domatium/core/document';
import { mixed, number, object, string, type InferType } from 'yup';
import { endpoint } from './endpoint.js';
import { id, name, path } from './fields.js';

export const inPortfolio = object({ portfolioId: id() });
export const onPage = object({ portfolioId: id(), pageId: id() });

/** A stretch of time as it travels: milliseconds since 1970 UTC, `null` for an open end. */
export interface Stretch {
  readonly from: number;
  readonly until: number | null;
}

export interface RegisterSite {
  readonly id: number;
  readonly name: string;
  /** What visitors read at the top of its pages. */
  readonly brand: string;
  readonly host: string;
  readonly basePath: string;
  readonly domain: string | null;
  readonly theme: string;
}

export interface RegisterPage {
  readonly id: number;
  readonly name: string;
  readonly role: string;
  readonly siteId: number;
  readonly host: string;
  readonly path: string;
  readonly campaignId: number | null;
  readonly owner: string | null;
  readonly changedAt: number;
  readonly changedBy: string | null;
  readonly version: number;
  readonly periods: readonly (Stretch & { readonly revision: number })[];
  /** Whether its address redirects behind the last end. */
  readonly redirectsAfter: boolean;
  /** Visits of the last 30 days, oldest first, and the sum of the 30 before. */
  readonly daily: readonly number[];
  readonly visitsBefore: number;
}

/** The whole portfolio as the register shows it. */
export interface Register {
  readonly now: number;
  readonly sites: readonly RegisterSite[];
  readonly campaigns: readonly { readonly id: number; readonly name: string }[];
  readonly pages: readonly RegisterPage[];
  /** When something was released: diamonds on the rail. */
  readonly releases: readonly number[];
  /** Releases that are not out yet, or failed. */
  readonly waiting: readonly {
    readonly id: number;
    readonly at: number;
    readonly summary: string;
    readonly failure: string | null;
  }[];
}

/** What visitors of the page's address get during a stretch, in words and as data. */
export interface SheetLine extends Stretch {
  readonly kind: 'page' | 'redirect' | 'gone' | 'not-found';
  readonly words: string;
  readonly isThisPage: boolean;
  readonly revision: number | null;
}

export interface PageLink {
  readonly pageId: number;
  readonly name: string;
  /** What is worth knowing of where the link leads, from when; `null` where all is well. */
  readonly note: string | null;
}

export interface PageSheet {
  readonly id: number;
  readonly name: string;
  readonly role: string;
  readonly version: number;
  readonly siteId: number;
  readonly siteName: string;
  readonly host: string;
  readonly path: string;
  readonly draftVersion: number;
  readonly draftDiffers: boolean;
  readonly latestRevision: number | null;
  readonly lines: readonly SheetLine[];
  /** Moves that are still to come. */
  readonly moves: readonly { readonly at: number; readonly host: string; readonly path: string }[];
  readonly visits: { readonly current: number; readonly before: number; readonly change: number | null };
  readonly linksTo: readonly PageLink[];
  readonly linkedFrom: readonly PageLink[];
  readonly campaign: string | null;
  readonly owner: string | null;
  readonly now: number;
}

export interface HistoryEntry {
  readonly releaseId: number;
  readonly at: number;
  readonly by: string | null;
  readonly act: string;
  readonly summary: string;
  readonly outAt: number | null;
  readonly failure: string | null;
  readonly undoneBy: number | null;
  readonly undoes: number | null;
  /** Why it can't be undone, or `null` where it can. */
  readonly undoRefusal: string | null;
}

export const newPageBody = object({
  siteId: id().typeError('Choose a site.').required('Choose a site.'),
  start: mixed<Start>().oneOf(['blank', 'offer', 'event', 'notice'], 'Choose a start.').required('Choose a start.'),
  name: name(),
  path: path(),
}).noUnknown('There is no such field.');
export type NewPageBody = InferType<typeof newPageBody>;

/** Who lies at an address, over time. */
export interface AddressCheck {
  readonly address: string;
  readonly isValid: boolean;
  readonly isFreeNow: boolean;
  /** "Free today; from 1 Dec it is Island pass 2027." */
  readonly words: string;
  readonly holders: readonly (Stretch & { readonly pageId: number; readonly name: string })[];
}

export interface DraftView {
  readonly version: number;
  readonly document: PageDocument;
  readonly changedAt: number;
  readonly changedBy: string | null;
  readonly name: string;
  readonly siteId: number;
  readonly host: string;
  readonly path: string;
  readonly latestRevision: number | null;
  readonly differsFromLatest: boolean;
}

export const draftBody = object({
  version: number().integer().positive().required('Say which version you saw.'),
  document: mixed<object>((value): value is object => typeof value === 'object' && value !== null).required(
    'The page is missing.',
  ),
}).noUnknown('There is no such field.');

export interface PictureView {
  readonly id: number;
  readonly name: string;
  readonly description: string;
  readonly width: number;
  readonly height: number;
  readonly variants: readonly { readonly width: number; readonly src: string }[];
}

export const pages = {
  register: endpoint<Register>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register',
    who: 'read',
    summary: 'All pages, over time',
    params: inPortfolio,
  }),
  newPage: endpoint<{ id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pages',
    who: 'write',
    summary: 'Make a page',
    params: inPortfolio,
    body: newPageBody,
  }),
  sheet: endpoint<PageSheet>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId',
    who: 'read',
    summary: 'A page’s sheet: what visitors get here',
    params: onPage,
  }),
  rename: endpoint<{ version: number }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/pages/:pageId',
    who: 'write',
    summary: 'Change a page’s internal name',
    params: onPage,
    body: object({ name: name(), version: number().integer().positive().required() }).noUnknown(
      'There is no such field.',
    ),
  }),
  history: endpoint<readonly HistoryEntry[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/history',
    who: 'read',
    summary: 'Releases that changed a page, newest first',
    params: onPage,
  }),
  addressCheck: endpoint<AddressCheck>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/address-check',
    who: 'read',
    summary: 'Who lies at an address, over time',
    params: inPortfolio,
    query: object({
      siteId: id(),
      path: string().max(4000).required(),
      pageId: number().integer().positive().optional(),
    }),
  }),
  draft: endpoint<DraftView>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/draft',
    who: 'read',
    summary: 'A page’s draft',
    params: onPage,
  }),
  saveDraft: endpoint<{ version: number; changedAt: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/pages/:pageId/draft',
    who: 'write',
    summary: 'Keep a page’s draft; refused with both states if it is not made from the newest',
    params: onPage,
    body: draftBody,
  }),
  pictures: endpoint<readonly PictureView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pictures',
    who: 'read',
    summary: 'The portfolio’s pictures',
    params: inPortfolio,
  }),
  file: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/files/:hash',
    who: 'read',
    summary: 'A picture by its hash, for the canvas',
    params: object({
      portfolioId: id(),
      hash: string()
        .matches(/^[0-9a-f]{64}\.webp$/, 'Not a file.')
        .required(),
    }),
    answers: 'bytes',
  }),
  events: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/events',
    who: 'read',
    summary: 'What changes, as it happens (server-sent events)',
    params: inPortfolio,
    answers: 'events',
  }),
};
