import type { Block, PageDocument } from '@domatium/core/document';
import { STARTS, type Start } from '@domatium/core/starts';
import type { StockKind } from '@domatium/core/stock';
import type { AlikePage } from '@domatium/core/metadata';
import type { RegisterColumns } from '@domatium/core/register';
import { array, boolean, mixed, number, object, string, type InferType } from 'yup';
import { endpoint } from './endpoint.js';
import { id, idList, isoMoment, name, path, trim } from './fields.js';
import { say } from '@domatium/core/words/answers/requests';

/** As many pages as are arranged at once: every page of the largest portfolio. */
const MOST_ARRANGED = 50_000;

export const inPortfolio = object({ portfolioId: id() });
export const onPage = object({ portfolioId: id(), pageId: id() });

/** A stretch of time as it travels: milliseconds since 1970 UTC, `null` for an open end. */
export interface Stretch {
  readonly from: number;
  readonly until: number | null;
}

/** The whole portfolio as the register holds it, or some of its pages where one asked for those. */
export interface Register {
  readonly now: number;
  readonly columns: RegisterColumns;
  /** When something was released in the last year: diamonds on the rail. */
  readonly releases: readonly number[];
  /** Releases that are not out yet, or failed. */
  readonly waiting: readonly {
    readonly id: number;
    readonly at: number;
    readonly summary: string;
    readonly failure: string | null;
  }[];
  /** What the last verification found to be other than it is derived; `null` where all was as it should be. */
  readonly unverified: { readonly at: number; readonly count: number; readonly first: readonly string[] } | null;
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

export interface PageAddressView {
  readonly host: string;
  readonly path: string;
  /** What visitors get there, in words; `isHere`: they come to this page. */
  readonly words: string;
  readonly isHere: boolean;
  /** What they get next, and from when. */
  readonly next: { readonly at: number; readonly words: string } | null;
  /** How often somebody asked for it in the last 30 days and got something else than a page of it. */
  readonly asked: number;
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
  /** Moments of its plan that were chosen on another clock than the portfolio's, and on which. */
  readonly zones: readonly { readonly at: number; readonly zone: string }[];
  /** Other addresses that are, or were, of this page, and those that redirect here, with what they give now. */
  readonly addresses: readonly PageAddressView[];
  /** Moves that are still to come. */
  readonly moves: readonly { readonly at: number; readonly host: string; readonly path: string }[];
  readonly visits: { readonly current: number; readonly before: number; readonly change: number | null };
  readonly linksTo: readonly PageLink[];
  readonly linkedFrom: readonly PageLink[];
  /** Menus, legal pages, headers, footers, bands and pieces that lead to it, now or later. */
  readonly ledFrom: readonly { readonly itemId: number; readonly kind: StockKind; readonly name: string }[];
  /** What checks found in its draft, and in what is planned for visitors. */
  readonly findings: readonly {
    readonly source: 'draft' | 'plan' | 'portfolio';
    readonly severity: 'blocks' | 'worth-fixing';
    /** What it is, with what its words were made of; `null` where it was found by an earlier version. */
    readonly code: string | null;
    readonly params: object | null;
    readonly message: string;
    readonly mend: string;
  }[];
  readonly campaign: string | null;
  readonly owner: string | null;
  readonly now: number;
  /** The template it was made from, and whether it is one. */
  readonly template: { readonly id: number; readonly name: string } | null;
  readonly isTemplate: boolean;
  /** Since when it is in the bin, and who put it there. */
  readonly bin: { readonly since: number; readonly by: string | null } | null;
}

/** What an address gave, or will give, at a moment. */
export interface SeenView {
  readonly host: string;
  readonly path: string;
  readonly words: string;
  /** Whether the stored page can be shown. */
  readonly isPage: boolean;
  /** Visitors still got what was there before: a release was decided, but not out yet. */
  readonly isLate: boolean;
  readonly outAt: number | null;
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
  siteId: id().typeError(say.chooseASite).required(say.chooseASite),
  start: mixed<Start>().oneOf(STARTS, say.chooseAStart).required(say.chooseAStart),
  name: name(),
  path: path(),
  /** Made from this template instead of the start. */
  templateId: number().integer().positive().nullable().optional(),
}).noUnknown(say.unknownField);
export type NewPageBody = InferType<typeof newPageBody>;

export const renameBody = object({ name: name(), version: number().integer().positive().required() }).noUnknown(
  say.unknownField,
);

/** Who lies at an address, over time. */
export interface AddressCheck {
  readonly address: string;
  readonly isValid: boolean;
  readonly isFreeNow: boolean;
  /** "Free today; from 1 Dec it is Island pass 2027." */
  readonly words: string;
  readonly holders: readonly (Stretch & { readonly pageId: number; readonly name: string })[];
}

/** What somebody wrote, and another one’s text took the place of. */
export interface OverriddenText {
  readonly id: number;
  readonly at: number;
  /** Who decided so. */
  readonly by: string | null;
  /** The block as it was; `null` where it is the page’s own fields. */
  readonly block: Block | null;
  readonly metadata: PageDocument['metadata'] | null;
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
  /** What of the one who asks was replaced, until they have seen it. */
  readonly overridden: readonly OverriddenText[];
}

export const draftBody = object({
  version: number().integer().positive().required(say.theVersionIsMissing),
  document: mixed<object>((value): value is object => typeof value === 'object' && value !== null).required(
    say.thePageIsMissing,
  ),
  /** Blocks, and `page`, in which the person decided for their own text over another one’s: that one is told. */
  over: array(string().max(24).required()).max(1001).default([]),
}).noUnknown(say.unknownField);

/** The name of a label, as people type it. */
export const labelName = () => string().transform(trim).required(say.aLabelNeedsAName).max(60, say.atMost60Characters);

const arrangedPage = object({
  id: id(),
  version: number().integer().positive().required(),
  campaignId: number().integer().positive().nullable().optional(),
  ownerId: number().integer().positive().nullable().optional(),
  labels: array().of(labelName()).max(20, say.atMost20LabelsOnAPage).optional(),
}).noUnknown(say.unknownField);
const arrangeBody = object({
  pages: array().of(arrangedPage.required()).min(1, say.choosePagesFirst).max(MOST_ARRANGED).required(),
}).noUnknown(say.unknownField);
/** Pages with what each is to have; what is left out stays as it is. */
export type ArrangeBody = InferType<typeof arrangeBody>;

export const templateBody = object({
  version: number().integer().positive().required(),
  isTemplate: boolean().required(),
  notes: string().transform(trim).defined().max(2000, say.atMost2000Characters),
}).noUnknown(say.unknownField);

/** A page others are made from. */
export interface TemplateView {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly notes: string;
  readonly siteName: string;
  /** Its first picture, as a small file; `null` where it has none. */
  readonly picture: string | null;
  readonly pages: readonly { readonly id: number; readonly name: string }[];
}

export const deleteBody = object({
  pages: array().of(id()).min(1, say.choosePagesFirst).max(MOST_ARRANGED).required(),
  /** The name of the page, or how many they are: typed by the person, because nothing brings them back. */
  confirmation: string().required(say.typeItToConfirm).max(200),
}).noUnknown(say.unknownField);

export const pages = {
  register: endpoint<Register>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register',
    who: 'read',
    summary: 'All pages over time as columns, or those that are named',
    params: inPortfolio,
    query: object({ pages: idList(200).optional() }),
  }),
  registerLines: endpoint<readonly (readonly [pageId: number, daily: readonly number[]])[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/lines',
    who: 'read',
    summary: 'Visits of the last 30 days of some pages, oldest day first',
    params: inPortfolio,
    query: object({ pages: idList(200).required(say.choosePages) }),
  }),
  registerFound: endpoint<{ readonly pages: readonly number[] }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/found',
    who: 'read',
    summary: 'Pages whose text, as their drafts have it, holds words that begin like these',
    params: inPortfolio,
    query: object({ text: string().required(say.enterSomethingToFind).max(200, say.atMost200Characters) }),
  }),
  registerGiven: endpoint<readonly (readonly [pageId: number, words: string])[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/given',
    who: 'read',
    summary: 'What the addresses of some pages give at a moment, in words',
    params: inPortfolio,
    query: object({ pages: idList(200).required(say.choosePages), at: isoMoment() }),
  }),
  titles: endpoint<readonly (readonly [pageId: number, title: string | null])[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/titles',
    who: 'read',
    summary: 'The titles some pages have at a moment, `null` of those that are not live then',
    params: inPortfolio,
    query: object({ pages: idList(200).required(say.choosePages), at: isoMoment() }),
  }),
  alike: endpoint<readonly AlikePage[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/alike',
    who: 'read',
    summary:
      'Pages that are live or will be, and have the same title or description as another page, or nearly the same, or aim at the same phrases (one a line)',
    params: inPortfolio,
    query: object({
      page: id(),
      title: string().max(200).defined(),
      description: string().max(500).defined(),
      phrases: string().max(500).default(''),
    }),
  }),
  differenceFile: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/register/difference.csv',
    who: 'read',
    summary: 'What is different for visitors between two moments, as CSV (RFC 4180)',
    params: inPortfolio,
    query: object({ from: isoMoment(), until: isoMoment(), scope: string().max(300).optional() }),
    answers: 'bytes',
  }),
  templates: endpoint<readonly TemplateView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/templates',
    who: 'read',
    summary: 'Pages that are templates, with their notes and the pages made from them',
    params: inPortfolio,
  }),
  setTemplate: endpoint<{ readonly version: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/pages/:pageId/template',
    who: 'write',
    summary: 'Make a page a template with notes, or no template any more',
    params: onPage,
    body: templateBody,
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
    summary: 'A page’s sheet: what visitors get here; as of a moment, with that moment’s addresses and links',
    params: onPage,
    query: object({ at: isoMoment().notRequired() }),
  }),
  seen: endpoint<SeenView>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/seen',
    who: 'read',
    summary: 'What visitors of the page’s address got, or will get, at a moment',
    params: onPage,
    query: object({ at: isoMoment() }),
  }),
  seenPage: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/seen.html',
    who: 'read',
    summary: 'The stored page itself, as it was served or is ready to be served at a moment',
    params: onPage,
    query: object({ at: isoMoment() }),
    answers: 'bytes',
  }),
  rename: endpoint<{ version: number }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/pages/:pageId',
    who: 'write',
    summary: 'Change a page’s internal name',
    params: onPage,
    body: renameBody,
  }),
  arrange: endpoint<{ readonly versions: readonly (readonly [pageId: number, version: number])[] }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/pages',
    who: 'write',
    summary: 'Campaign, owner and labels of pages: all of them, or none where one has changed meanwhile',
    params: inPortfolio,
    body: arrangeBody,
  }),
  deletePages: endpoint<{ readonly deleted: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pages/delete',
    who: 'release',
    summary: 'Delete pages of the bin for ever; what has been deleted when one cancels stays deleted',
    params: inPortfolio,
    body: deleteBody,
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
  dismissOverridden: endpoint<object>()({
    method: 'DELETE',
    path: '/api/portfolios/:portfolioId/pages/:pageId/draft/overridden/:overriddenId',
    who: 'write',
    summary: 'Note that the one whose text was replaced has seen it',
    params: object({ portfolioId: id(), pageId: id(), overriddenId: id() }),
  }),
  saveDraft: endpoint<{ version: number; changedAt: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/pages/:pageId/draft',
    who: 'write',
    summary: 'Keep a page’s draft; refused with both states if it is not made from the newest',
    params: onPage,
    body: draftBody,
    isLong: true,
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
