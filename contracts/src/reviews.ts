import type { Block, PageDocument } from '@domatium/core/document';
import type { Nav } from '@domatium/core/frame';
import type { SharedValue } from '@domatium/core/stock';
import type { PartsAround } from '@domatium/core/render';
import type { Theme } from '@domatium/core/theme';
import { array, mixed, number, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id, isoMoment, name, trim } from './fields.js';
import { inPortfolio, onPage } from './pages.js';
import { publicFile, type FileView, type PictureView } from './pictures.js';
import { say } from '@domatium/core/words/answers/requests';

/** What somebody says of a page: words on a block or on the whole, or a verdict. */
export const REMARK_KINDS = ['remark', 'fine', 'change'] as const;
export type RemarkKind = (typeof REMARK_KINDS)[number];

export interface RemarkView {
  readonly id: number;
  readonly kind: RemarkKind;
  readonly text: string;
  /** Who said it, as they wrote their name. */
  readonly name: string;
  /** The link they came through. */
  readonly link: string;
  /** The block it stands on, in words as it was then; `null` for the whole page. */
  readonly block: string | null;
  readonly blockId: string | null;
  readonly revision: number;
  readonly at: number;
  readonly settledAt: number | null;
  readonly settledBy: string | null;
  /** What was answered, the first first. */
  readonly answers: readonly RemarkAnswer[];
}

export interface RemarkAnswer {
  readonly id: number;
  readonly at: number;
  readonly name: string;
  readonly text: string;
  /** By somebody who works on the page; else by a reader of the link. */
  readonly isOurs: boolean;
}

export interface ReviewView {
  readonly remarks: readonly RemarkView[];
  /** For each revision somebody spoke of: what the draft has changed since, a line each. */
  readonly since: readonly (readonly [revision: number, changes: readonly string[]])[];
}

export interface PrivateLinkView {
  readonly id: number;
  readonly name: string;
  readonly madeAt: number;
  readonly madeBy: string | null;
  readonly endsAt: number;
  readonly hasPassword: boolean;
  readonly isEnded: boolean;
  /** The site whose pages it shows, `null` where it names its pages. */
  readonly site: string | null;
  readonly pages: readonly { readonly id: number; readonly name: string }[];
}

/** What a private link opens, for whoever has it. */
export interface PrivateView {
  readonly name: string;
  readonly portfolio: string;
  readonly zone: string;
  readonly endsAt: number;
  readonly pages: readonly { readonly id: number; readonly name: string; readonly address: string }[];
}

/** A page as its draft has it, with everything that is needed to draw it. */
export interface PrivatePage {
  readonly id: number;
  readonly name: string;
  readonly address: string;
  readonly draftVersion: number;
  readonly document: PageDocument;
  readonly theme: Theme;
  readonly pieces: readonly { readonly id: number; readonly blocks: readonly Block[] | null }[];
  readonly values: readonly SharedValue[];
  readonly titles: readonly (readonly [pageId: number, title: string | null])[];
  readonly brand: string;
  readonly language: string;
  /** What stands around it. */
  readonly parts: PartsAround;
  /** The ways through its site, as visitors get them. */
  readonly nav: Nav | null;
  readonly pictures: readonly PictureView[];
  readonly files: readonly FileView[];
  /** Own CSS of its site. */
  readonly siteCss: string;
  /** When its live period ends, the one that is or the next one: countdowns count to it. */
  readonly endsAt: number | null;
  /** The open ones first; those that are settled stay to be read. */
  readonly remarks: readonly Omit<RemarkView, 'link' | 'revision'>[];
}

const MOST_SHARED = 500;
const password = () =>
  string().nullable().min(6, say.atLeast6Characters).max(200, say.atMost200Characters).default(null);

export const privateLinkBody = object({
  name: name(),
  /** The pages it shows, or all pages of a site. */
  pages: array().of(id()).max(MOST_SHARED, say.atMostPagesInOneLink(MOST_SHARED)).default([]),
  siteId: number().integer().positive().nullable().default(null),
  endsAt: isoMoment().required(say.chooseWhenItEnds),
  password: password(),
}).noUnknown(say.unknownField);

export const remarkBody = object({
  kind: mixed<RemarkKind>()
    .oneOf([...REMARK_KINDS], say.chooseWhatToSay)
    .required(say.chooseWhatToSay),
  text: string()
    .transform(trim)
    .defined()
    .max(2000, say.atMost2000Characters)
    .when('kind', ([kind], schema) => (kind === 'remark' ? schema.required(say.writeYourComment) : schema)),
  name: string().transform(trim).required(say.enterYourName).max(100, say.atMost100Characters),
  blockId: string().nullable().max(40).default(null),
  draftVersion: number().integer().positive().required(say.theDraftVersionIsMissing),
}).noUnknown(say.unknownField);

const answerText = () => string().transform(trim).required(say.writeYourComment).max(2000, say.atMost2000Characters);
export const answerBody = object({
  text: answerText(),
  name: string().transform(trim).required(say.enterYourName).max(100, say.atMost100Characters),
}).noUnknown(say.unknownField);

const withToken = { token: string().required().max(100) };

export const reviews = {
  privateLinks: endpoint<readonly PrivateLinkView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/private-links',
    who: 'read',
    summary: 'Private links that were made, newest first; ended ones for a month',
    params: inPortfolio,
  }),
  newPrivateLink: endpoint<{ readonly id: number; readonly address: string }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/private-links',
    who: 'write',
    summary: 'Share pages, or a site, with people without an account; the address is told this once',
    params: inPortfolio,
    body: privateLinkBody,
  }),
  revokePrivateLink: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/private-links/:linkId/revoke',
    who: 'write',
    summary: 'Take a private link back: it opens nothing any more, at once',
    params: object({ portfolioId: id(), linkId: id() }),
  }),
  review: endpoint<ReviewView>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/review',
    who: 'read',
    summary: 'Who said what of a page, on which revision, and what changed since',
    params: onPage,
  }),
  settleRemark: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/remarks/:remarkId/settle',
    who: 'write',
    summary: 'Say that a remark is settled',
    params: object({ portfolioId: id(), remarkId: id() }),
  }),
  answerRemark: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/remarks/:remarkId/answers',
    who: 'write',
    summary: 'Answer a remark: its readers see it through their link',
    params: object({ portfolioId: id(), remarkId: id() }),
    body: object({ text: answerText() }).noUnknown(say.unknownField),
  }),
  privateView: endpoint<PrivateView>()({
    method: 'GET',
    path: '/api/private/:token',
    who: 'anyone',
    summary: 'What a private link opens; 401 where it needs its password, 410 where it has ended',
    params: object(withToken),
  }),
  openPrivate: endpoint<Record<string, never>>()({
    method: 'POST',
    path: '/api/private/:token/open',
    who: 'anyone',
    summary: 'Open a private link with its password',
    params: object(withToken),
    body: object({ password: string().required(say.enterThePassword).max(200) }).noUnknown(say.unknownField),
  }),
  privatePage: endpoint<PrivatePage>()({
    method: 'GET',
    path: '/api/private/:token/pages/:pageId',
    who: 'anyone',
    summary: 'A page of a private link, as its draft has it',
    params: object({ ...withToken, pageId: id() }),
  }),
  privateFile: endpoint<never>()({
    method: 'GET',
    path: '/api/private/:token/files/:hash',
    who: 'anyone',
    summary: 'A picture, font or file by its hash, for the pages of a private link',
    params: object({
      ...withToken,
      hash: publicFile(),
    }),
    answers: 'bytes',
  }),
  answerPrivately: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/private/:token/remarks/:remarkId/answers',
    who: 'anyone',
    summary: 'Answer a remark as a reader of the link',
    params: object({ ...withToken, remarkId: id() }),
    body: answerBody,
  }),
  sayRemark: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/private/:token/pages/:pageId/remarks',
    who: 'anyone',
    summary: 'Say something of a page: its draft is frozen as the revision it is said of',
    params: object({ ...withToken, pageId: id() }),
    body: remarkBody,
  }),
};
