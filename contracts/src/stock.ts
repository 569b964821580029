import type { Block } from '@domatium/core/document';
import type { Code } from '@domatium/core/codes';
import type { Nav } from '@domatium/core/frame';
import {
  STOCK_KINDS,
  type LegalPage,
  type Menu,
  type PageFrame,
  type Part,
  type PartKind,
  type SharedMetadata,
  type SharedValue,
  type SiteProfile,
  type Standing,
  type StockContent,
  type StockKind,
} from '@domatium/core/stock';
import type { Theme } from '@domatium/core/theme';
import type { ChoicesMade } from '@domatium/core/traffic';
import { mixed, number, object, string, type InferType } from 'yup';
import { endpoint } from './endpoint.js';
import { id, isoMoment, name } from './fields.js';
import { inPortfolio, type HistoryEntry, type Stretch } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

/** Something many pages use, as it stands in lists. */
export interface StockView {
  /** `null` of a theme that ships and that nobody here has changed. */
  readonly id: number | null;
  readonly kind: StockKind;
  readonly key: string | null;
  readonly name: string;
  readonly siteId: number | null;
  readonly draftVersion: number;
  /** The draft says something else than what holds now. */
  readonly draftDiffers: boolean;
  readonly changedAt: number | null;
  readonly changedBy: string | null;
  /** When which revision holds. */
  readonly periods: readonly (Stretch & { readonly revision: number; readonly by: string | null })[];
  /** On how many pages it is, now or as planned. */
  readonly uses: number;
}

export interface StockItem extends StockView {
  readonly draft: StockContent[StockKind];
  readonly revisions: readonly {
    readonly number: number;
    readonly at: number;
    readonly by: string | null;
    readonly content: StockContent[StockKind];
  }[];
  /** Pages that show it, now or as planned; drafts that use it and are not live. */
  readonly pages: readonly {
    readonly pageId: number;
    readonly name: string;
    readonly address: string;
    readonly isDraft: boolean;
  }[];
  readonly releases: readonly HistoryEntry[];
  /** How many have to approve before it goes on its pages, and the sites that want it: it is prepared then. */
  readonly approvals: { readonly needed: number; readonly sites: readonly string[] };
}

/** Everything of the stock as it holds at a moment, for the canvas. */
export interface StockHeld {
  readonly themes: Readonly<Record<string, Theme>>;
  readonly values: readonly { readonly siteId: number | null; readonly values: readonly SharedValue[] }[];
  /** What each site is. */
  readonly profiles: readonly { readonly siteId: number; readonly profile: SiteProfile }[];
  /** Own CSS of sites. */
  readonly css: readonly { readonly siteId: number | null; readonly css: string }[];
  readonly pieces: readonly HeldPiece[];
  /** Headers, footers and bands; `null` of one that holds nothing then. */
  readonly parts: readonly HeldPart[];
  /** What is said of where they stand, by the rules that say it; `key` and `siteId`: of which pages. */
  readonly standings: readonly {
    readonly id: number;
    readonly key: string | null;
    readonly siteId: number | null;
    readonly standing: Standing;
  }[];
  /** Menus and page trees of sites, by their names. */
  readonly menus: readonly { readonly siteId: number; readonly name: string; readonly menu: Menu }[];
  /** Legal pages that the portfolio wants, and those of sites. */
  readonly legal: readonly { readonly siteId: number | null; readonly pages: readonly LegalPage[] }[];
  /** What is said to search engines, and where pages are shared; `key` and `siteId`: of which pages. */
  readonly metadata: readonly {
    readonly id: number;
    readonly key: string | null;
    readonly siteId: number | null;
    readonly metadata: SharedMetadata;
  }[];
  /** Codes that run. */
  readonly codes: readonly { readonly id: number; readonly name: string; readonly code: Code }[];
}

export interface HeldPart {
  readonly id: number;
  readonly kind: PartKind;
  readonly name: string;
  readonly part: Part | null;
  /** Of one that holds nothing what it would hold once it is released; `null` of others. */
  readonly draft: Part | null;
}

export interface HeldPiece {
  readonly id: number;
  readonly name: string;
  /** What visitors get of it; `null` for nothing. */
  readonly blocks: readonly Block[] | null;
  /** Of a piece that shows nothing what it would show once it is released; `null` of others. */
  readonly draft: readonly Block[] | null;
}

/** Pages of a site around which the same is said to stand. */
export interface FramedPages {
  readonly siteId: number;
  /** The rules about pages that cover them, by their items. */
  readonly rules: readonly number[];
  /** What they choose themselves. */
  readonly own: PageFrame | null;
  /** How many are live then, and some of them. */
  readonly pages: number;
  readonly some: readonly { readonly pageId: number; readonly name: string }[];
}

const content = () =>
  mixed<object>((value): value is object => typeof value === 'object' && value !== null).required(
    say.theContentIsMissing,
  );

export const newStockBody = object({
  kind: mixed<StockKind>().oneOf(STOCK_KINDS, say.chooseAKind).required(say.chooseAKind),
  name: name(),
  content: content(),
  /** The theme that ships and is changed for this portfolio, a theme without it is a new one; of which pages a rule is, such as `path:/events`; the name of a menu. */
  key: string().max(1100).nullable().optional(),
  /** The site whose values, CSS, menu or legal pages these are, or at whose path a rule begins; without it they are those of the portfolio. */
  siteId: number().integer().positive().nullable().optional(),
}).noUnknown(say.unknownField);
export type NewStockBody = InferType<typeof newStockBody>;

export const stockDraftBody = object({
  version: number().integer().positive().required(say.theVersionIsMissing),
  name: name(),
  content: content(),
}).noUnknown(say.unknownField);

const onItem = object({ portfolioId: id(), itemId: id() });

export const stock = {
  stock: endpoint<readonly StockView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock',
    who: 'read',
    summary:
      'Themes, pieces, shared values, own CSS, profiles and menus of sites, headers, footers and bands, with when which revision holds',
    params: inPortfolio,
  }),
  stockHeld: endpoint<StockHeld>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock/held',
    who: 'read',
    summary: 'What the stock holds at a moment, for rendering',
    params: inPortfolio,
    query: object({ at: isoMoment() }),
  }),
  choices: endpoint<readonly ChoicesMade[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock/choices',
    who: 'read',
    summary: 'What visitors allowed codes to do in the last 30 days, by purpose',
    params: inPortfolio,
  }),
  siteWays: endpoint<{ readonly nav: Nav | null }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock/ways',
    who: 'read',
    summary: 'The ways through a site as visitors get them at a moment: its menus and page tree',
    params: inPortfolio,
    query: object({ siteId: id(), at: isoMoment() }),
  }),
  framedPages: endpoint<readonly FramedPages[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock/framed-pages',
    who: 'read',
    summary: 'Pages that are live at a moment, by what is said of what stands around them',
    params: inPortfolio,
    query: object({ at: isoMoment() }),
  }),
  newStock: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/stock',
    who: 'write',
    summary: 'Put a theme, a piece, values or own CSS of a site into the stock, as a draft',
    params: inPortfolio,
    body: newStockBody,
  }),
  stockItem: endpoint<StockItem>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/stock/:itemId',
    who: 'read',
    summary: 'One thing in the stock: its draft, revisions, releases and where it is used',
    params: onItem,
  }),
  saveStock: endpoint<{ readonly version: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/stock/:itemId/draft',
    who: 'write',
    summary: 'Keep a draft; refused with the newest if it is not made from that',
    params: onItem,
    body: stockDraftBody,
  }),
  removeStock: endpoint<object>()({
    method: 'DELETE',
    path: '/api/portfolios/:portfolioId/stock/:itemId',
    who: 'release',
    summary: 'Take something out of the stock; refused while pages use it',
    params: onItem,
  }),
};
