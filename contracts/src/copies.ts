import { array, boolean, mixed, number, object, string, type InferType } from 'yup';
import { endpoint } from './endpoint.js';
import { id, trim } from './fields.js';
import { inPortfolio } from './pages.js';
import { siteFields } from './people.js';
import { say } from '@domatium/core/words/answers/requests';

/** As many pages as are copied at once. */
export const MOST_COPIED = 1000;

const pattern = (what: string) => string().transform(trim).required(say.say(what)).max(200, say.atMost200Characters);

export const copyBody = object({
  pages: array().of(id()).min(1, say.choosePagesFirst).max(MOST_COPIED, say.atMost1000PagesAtOnce).required(),
  target: object({
    portfolioId: id(),
    /** `null`: each stays on its own site. */
    siteId: number().integer().positive().nullable().default(null),
  }).required(),
  names: pattern(say.whatTheCopiesAreCalled),
  paths: pattern(say.whereTheyLie),
  replacements: array()
    .of(object({ from: string().required().max(100), to: string().defined().max(100) }).required())
    .max(10)
    .default([]),
  /** Whether the periods come along, as a prepared release. */
  withPeriods: boolean().default(false),
  /** By so many days everything is later: periods, and dates in texts. */
  days: number().integer().min(-3650, say.atMostTenYears).max(3650, say.atMostTenYears).default(0),
  /** The campaign of the copies; without it each keeps its own where it stays in the portfolio. */
  campaignId: number().integer().positive().nullable().optional(),
  /** What becomes of what does not exist in the other portfolio; left out without a choice. */
  missing: array()
    .of(
      object({
        kind: mixed<'page' | 'picture'>().oneOf(['page', 'picture']).required(),
        id: id(),
        choice: mixed<'copy' | 'use' | 'leave'>().oneOf(['copy', 'use', 'leave']).required(),
        useId: number().integer().positive().nullable().default(null),
      }).required(),
    )
    .max(5000)
    .default([]),
  /** Places in texts that change, each as the preview named it. */
  texts: array()
    .of(
      object({
        pageId: id(),
        place: string().required().max(300),
        start: number().integer().min(0).required(),
        end: number().integer().min(0).required(),
        by: string().defined().max(200),
      }).required(),
    )
    .max(5000)
    .default([]),
}).noUnknown(say.unknownField);
export type CopyBody = InferType<typeof copyBody>;

/** A site like another one, somewhere else. */
export const copySiteBody = object({
  name: siteFields.name,
  host: siteFields.host,
  basePath: siteFields.basePath,
  consent: siteFields.consent,
  /** Whether headers, footers and bands are those of both, or changed on their own from then on. */
  parts: mixed<'share' | 'copy'>()
    .oneOf(['share', 'copy'], say.sayWhetherPartsAreShared)
    .required(say.sayWhetherPartsAreShared),
  /** Whether its live and planned pages come along as drafts. */
  withPages: boolean().default(true),
}).noUnknown(say.unknownField);
export type CopySiteBody = InferType<typeof copySiteBody>;

/** A date or year in a text of a copied page, for a decision. */
export interface TextHit {
  readonly pageId: number;
  readonly place: string;
  readonly start: number;
  readonly end: number;
  readonly before: string;
  readonly found: string;
  readonly after: string;
  readonly proposal: string;
}

/** What a copy will do. */
export interface CopyPreview {
  readonly pages: readonly {
    readonly pageId: number;
    readonly name: string;
    readonly newName: string;
    readonly address: string;
    /** Who lies there, in words. */
    readonly words: string;
    readonly isFree: boolean;
    /** Why it can't be, or `null`. */
    readonly fault: string | null;
    readonly periods: readonly { readonly from: number; readonly until: number | null }[];
  }[];
  /** Links among the copied pages, which point to the copies, and links to other pages, which stay. */
  readonly links: { readonly inside: number; readonly outside: number };
  /** What does not exist in the target portfolio. */
  readonly missing: readonly {
    readonly kind: 'page' | 'picture';
    readonly id: number;
    readonly name: string;
    readonly usedBy: number;
    /** Whether a copy can be brought along: pictures can, pages only by copying them too. */
    readonly canCopy: boolean;
  }[];
  /** What stays where it is kept: the copies go without it. */
  readonly leftBehind: readonly {
    readonly kind: 'piece' | 'file' | 'header' | 'footer' | 'band';
    readonly name: string;
    readonly usedBy: number;
  }[];
  /** Notice bands that stand around these pages for a while and go along, shifted as they are. */
  readonly bands: readonly { readonly name: string; readonly from: number; readonly until: number }[];
  readonly hits: readonly TextHit[];
}

export const copies = {
  copyPreview: endpoint<CopyPreview>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/copies/preview',
    who: 'read',
    summary: 'What copying pages would make, what is missing where they go, and which dates their texts hold',
    params: inPortfolio,
    body: copyBody,
  }),
  copy: endpoint<{ readonly pages: readonly number[]; readonly preparedId: number | null }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/copies',
    who: 'read',
    summary: 'Copy pages as drafts, with their periods as a prepared release; the right to write there is asked for',
    params: inPortfolio,
    body: copyBody,
  }),
  copySite: endpoint<{ readonly id: number; readonly pages: number; readonly preparedId: number | null }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/sites/:siteId/copy',
    who: 'manage',
    summary: 'Copy a site with its menus, legal pages and looks as a prepared release, and its pages as drafts',
    params: object({ portfolioId: id(), siteId: id() }),
    body: copySiteBody,
  }),
};
