import { array, mixed, number, object, string } from 'yup';
import { SETTABLE } from '@domatium/core/checks';
import { say } from '@domatium/core/words/answers/requests';
import { MENDS_OF_MANY, type MendCode } from '@domatium/core/words';
import { endpoint } from './endpoint.js';
import { id, isoMoment, trim } from './fields.js';
import { MOST_FILLED } from './filling.js';
import { inPortfolio } from './pages.js';

/** A page in which something was found. */
export interface FoundPage {
  readonly pageId: number;
  readonly name: string;
  readonly host: string;
  readonly path: string;
  /** Visits of the last 30 days. */
  readonly visits: number;
  /** What was found, in words; and what can be done. */
  readonly message: string;
  readonly mend: string;
  /** The block it stands in; `null` for the page as a whole. */
  readonly blockId: string | null;
}

/** Something that was found on pages which are live, coming or drafts; the pages with most visits first. */
export interface FoundGroup {
  readonly code: string;
  readonly severity: 'blocks' | 'worth-fixing';
  readonly title: string;
  /** Why it matters. */
  readonly why: string;
  /** Visits of the last 30 days of all of its pages. */
  readonly visits: number;
  /** Every page that has it. */
  readonly pageIds: readonly number[];
  /** The first of them, each with all that was found of it there. */
  readonly found: readonly FoundPage[];
  /** What a machine can do about it on all of its pages. */
  readonly mends: readonly { readonly code: MendCode; readonly label: string }[];
}

/** A page whose draft is mended, with what goes and what comes. */
export interface MendedPage {
  readonly pageId: number;
  readonly name: string;
  /** The draft that was looked at, or that was written. */
  readonly version: number;
  readonly lines: readonly { readonly words: string; readonly how: 'same' | 'new' | 'gone' }[];
  /** Its draft has more in it than visitors get: that goes out with it. */
  readonly hasMore: boolean;
}
export interface MendingView {
  readonly pages: readonly MendedPage[];
  /** Pages on which a machine can't do that. */
  readonly out: readonly { readonly pageId: number; readonly name: string }[];
}

/** Something found that is let be on a page, with a reason. */
export interface AcceptedView {
  readonly id: number;
  readonly pageId: number;
  readonly name: string;
  readonly host: string;
  readonly path: string;
  readonly code: string;
  /** What it is. */
  readonly title: string;
  /** The block it stands in; `null` for the page as a whole. */
  readonly blockId: string | null;
  readonly reason: string;
  /** `null` for as long as it stands. */
  readonly until: number | null;
  readonly by: string | null;
  readonly at: number;
}

/** So many pages of each finding are listed. */
export const MOST_FOUND = 100;

export const fixing = {
  toFix: endpoint<readonly FoundGroup[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/to-fix',
    who: 'read',
    summary:
      'What checks found, grouped by what it is: what blocks a release first, then by visits affected; with `at` what would be found in what visitors get then',
    params: inPortfolio,
    query: object({ at: isoMoment().notRequired() }),
  }),
  accepted: endpoint<readonly AcceptedView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/accepted-findings',
    who: 'read',
    summary: 'What was found and is accepted with a reason, until it ends',
    params: inPortfolio,
  }),
  acceptFinding: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/accepted-findings',
    who: 'release',
    summary: 'Accept something that was found on a page, with a reason: it blocks no release and counts no more',
    params: inPortfolio,
    body: object({
      pageId: id().required(),
      code: string().oneOf(SETTABLE).required(),
      blockId: string().max(100).nullable().default(null),
      reason: string().transform(trim).required(say.sayWhyItIsAccepted).max(500),
      until: number().integer().nullable().default(null),
    }).noUnknown(say.unknownField),
  }),
  withdrawAcceptance: endpoint<{ readonly id: number }>()({
    method: 'DELETE',
    path: '/api/portfolios/:portfolioId/accepted-findings/:acceptanceId',
    who: 'release',
    summary: 'Accept something that was found no longer',
    params: object({ portfolioId: id(), acceptanceId: id() }),
  }),
  mendDrafts: endpoint<MendingView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/drafts/mending',
    who: 'write',
    summary:
      'Mend something that was found in the drafts of many pages; without `seen` only say what would become of them',
    params: inPortfolio,
    body: object({
      code: string().max(60).required(),
      mend: mixed<MendCode>()
        .oneOf(Object.keys(MENDS_OF_MANY) as MendCode[])
        .required(),
      pageIds: array().of(id().required()).min(1).max(MOST_FILLED).required(),
      /** The drafts that were looked at: one that has changed since is not written. */
      seen: array()
        .of(object({ pageId: id(), version: number().integer().positive().required() }).required())
        .min(1)
        .max(MOST_FILLED)
        .nullable()
        .default(null),
    }),
    isLong: true,
  }),
};
