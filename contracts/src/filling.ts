import { array, boolean, mixed, number, object, string } from 'yup';
import { MAX_DESCRIPTION, MAX_TITLE, METADATA_TEXTS, type MetadataText, type Robots } from '@domatium/core/document';
import { say } from '@domatium/core/words/answers/requests';
import { endpoint } from './endpoint.js';
import { id } from './fields.js';
import { inPortfolio } from './pages.js';

/** What of many drafts is set at once: one of their texts, by a pattern, or what they ask of search engines. */
export const FILLED = [...METADATA_TEXTS, 'robots'] as const;
export type Filled = MetadataText | 'robots';
export const MOST_FILLED = 10_000;

/** A page whose draft is set, as it reads before and after: a text with its values filled in, or what it asks of search engines. */
export interface FilledPage {
  readonly pageId: number;
  readonly name: string;
  /** The draft that was looked at, or that was written. */
  readonly version: number;
  readonly before: string | Robots | null;
  readonly after: string | Robots | null;
  /** What is set further up to stand before and after its title. */
  readonly around?: { readonly before: string; readonly after: string };
  /** Its draft has more in it than visitors get: that goes out with it. */
  readonly hasMore: boolean;
}

/** Why a draft is left as it is: it has something of its own, has it already, lacks what the pattern asks for, or it would be too long. */
export type NotFilled = 'has-own' | 'same' | 'missing' | 'too-long';

/** What becomes of the drafts of many pages. */
export interface FillingView {
  readonly pages: readonly FilledPage[];
  readonly out: readonly {
    readonly pageId: number;
    readonly name: string;
    readonly why: NotFilled;
    /** The place of the pattern that is nothing there. */
    readonly missing?: string;
  }[];
}

/** So many pages have their settings side by side. */
export const MOST_SIDE_BY_SIDE = 1_000;

/** The texts a page has beside its blocks, as they stand in its draft, and what it takes over where it has none. */
export interface SettingsRow {
  readonly pageId: number;
  readonly name: string;
  readonly address: string;
  readonly version: number;
  readonly hasMore: boolean;
  readonly texts: Readonly<Record<MetadataText, string>>;
  /** Its title stands without what is set to stand before and after titles. */
  readonly titleAlone: boolean;
  /** What is set further up, with its values filled in. */
  readonly said: { readonly titleBefore: string; readonly titleAfter: string; readonly description: string };
  /** Values that its texts may name, by their names. */
  readonly values: Readonly<Record<string, string>>;
}

/** A draft that was written. */
export interface WrittenDraft {
  readonly pageId: number;
  readonly version: number;
}

const setTexts = object({
  title: string().max(MAX_TITLE),
  description: string().max(MAX_DESCRIPTION),
  shareTitle: string().max(MAX_TITLE),
  shareDescription: string().max(MAX_DESCRIPTION),
}).noUnknown(say.unknownField);

const seenDrafts = array()
  .of(object({ pageId: id(), version: number().integer().positive().required() }).required())
  .min(1)
  .max(MOST_FILLED);

export const filling = {
  fillDrafts: endpoint<FillingView>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/drafts/filling',
    who: 'write',
    summary:
      'Set a text by a pattern, or what is asked of search engines, in the drafts of many pages; without `seen` only say what would become of them',
    params: inPortfolio,
    body: object({
      what: mixed<Filled>()
        .oneOf([...FILLED])
        .required(),
      /** For texts: words with places between { }. */
      pattern: string().default(''),
      /** For texts: the most characters, cut at the end of a word. */
      most: number().integer().positive().nullable().default(null),
      /** For `robots`; `null` for what is set further up. */
      robots: mixed().nullable().default(null),
      /** Also where a page has something of its own. */
      over: boolean().default(false),
      pageIds: array().of(id().required()).min(1).max(MOST_FILLED).required(),
      /** The drafts that were looked at: one that has changed since is not written. */
      seen: seenDrafts.nullable().default(null),
    }),
    isLong: true,
  }),
  draftSettings: endpoint<{ readonly pages: readonly SettingsRow[] }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/drafts/settings',
    who: 'read',
    summary: 'The texts many pages have beside their blocks, in their drafts, with what they take over',
    params: inPortfolio,
    body: object({ pageIds: array().of(id().required()).min(1).max(MOST_SIDE_BY_SIDE).required() }),
  }),
  setDrafts: endpoint<{ readonly pages: readonly WrittenDraft[] }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/drafts/setting',
    who: 'write',
    summary: 'Set texts in the drafts of many pages, each its own; one that has changed since it was seen refuses all',
    params: inPortfolio,
    body: object({
      pages: array()
        .of(
          object({
            pageId: id(),
            version: number().integer().positive().required(),
            texts: setTexts.required(),
          }).required(),
        )
        .min(1)
        .max(MOST_SIDE_BY_SIDE)
        .required(),
    }),
    isLong: true,
  }),
  draftsBack: endpoint<{ readonly count: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/drafts/back',
    who: 'write',
    summary: 'Give drafts back what they were before many were changed at once; those that have changed since stay',
    params: inPortfolio,
    body: object({ seen: seenDrafts.required() }),
    isLong: true,
  }),
};
