import type { PageDocument } from '@domatium/core/document';
import type { DemoPaper } from './papers.js';
import type { StockContent, StockKind } from '@domatium/core/stock';
import type { ThemeKey } from '@domatium/core/theme';

/** A time in the scenario: whole days from the day the demo is made, and a clock time in the portfolio's zone. */
export interface DemoTime {
  readonly day: number;
  readonly time: string;
}

export type DemoAnswer =
  | { readonly kind: 'redirect'; readonly to: string; readonly status: 301 | 302 }
  | { readonly kind: 'gone' }
  | { readonly kind: 'not-found' };

/** A stretch a page is on the air, decided some days before it begins. */
export interface DemoLife {
  readonly from: DemoTime;
  readonly until: DemoTime | null;
  readonly afterwards: DemoAnswer | null;
  readonly decided: DemoTime;
  /** Which of the page's documents; the first where there is one only. */
  readonly revision: number;
}

export interface DemoPage {
  readonly key: string;
  readonly name: string;
  readonly site: string;
  readonly path: string;
  readonly role: 'ordinary' | 'home' | 'not-found' | 'thank-you';
  readonly campaign: string | null;
  readonly owner: string;
  readonly made: DemoTime;
  /** Documents by revision; a link to a page is a function of its key. */
  readonly documents: readonly ((ids: DemoIds) => PageDocument)[];
  readonly lives: readonly DemoLife[];
  /** Visits on an ordinary day. */
  readonly visits: number;
  /** Change of visits a day, as a share: 0.01 grows by one in a hundred. */
  readonly drift: number;
  /** Moves, with the redirect each leaves. */
  readonly moves: readonly { readonly at: DemoTime; readonly path: string }[];
}

/** Identities the replay has given so far. A page that does not exist yet has none. */
export interface DemoIds {
  page(key: string): number | null;
  picture(key: string): number;
  /** A document that pages lead to. */
  paper(key: string): number;
  /** A piece of the stock by its name. */
  piece(name: string): number | null;
  block(): string;
  /** Where forms that ask for an e-mail address are sent. */
  listService(): string;
}

export interface DemoSite {
  readonly key: string;
  /** The name in the register. */
  readonly name: string;
  /** What visitors read. */
  readonly brand: string;
  readonly host: string;
  readonly basePath: string;
  readonly theme: ThemeKey;
  /** How many others approve before a release; none where it says nothing. */
  readonly approvals?: number;
}

/** Something of the stock: made, and put on its pages from a day on, or for a while. */
export interface DemoStock {
  readonly kind: StockKind;
  readonly name: string;
  /** The theme that ships and is changed. */
  readonly theme?: ThemeKey;
  /** The site whose values these are. */
  readonly site?: string;
  readonly content: (block: () => string) => StockContent[StockKind];
  readonly decided: DemoTime;
  readonly from: DemoTime;
  readonly until: DemoTime | null;
}

/** Identities of pages and of the parts that were made before. */
export interface DemoPartIds extends DemoIds {
  part(name: string): number | null;
  /** A site by its key. */
  site(key: string): number | null;
}

/** A header, a footer, a band, or where they stand; one of a name that is known is changed for a time. */
export interface DemoPart extends Pick<DemoStock, 'kind' | 'name' | 'site' | 'decided' | 'from' | 'until'> {
  /** Of which pages a rule is. */
  readonly key?: string;
  readonly content: (ids: DemoPartIds) => StockContent[StockKind];
}

export interface DemoCampaign {
  readonly name: string;
  readonly purpose: string;
  /** First and last day, from the day the demo is made. */
  readonly days: readonly [from: number, until: number];
  readonly owner: string;
}

export interface DemoPortfolio {
  readonly name: string;
  readonly slug: string;
  readonly zone: string;
  readonly ownHost: string;
  readonly domains: readonly string[];
  readonly sites: readonly DemoSite[];
  readonly campaigns: readonly DemoCampaign[];
  /** Pages by name that others are made from, with their notes. */
  readonly templates: readonly { readonly page: string; readonly notes: string }[];
  /** Tasks of pages by name: who does what, until which day. */
  readonly tasks: readonly {
    readonly page: string;
    readonly text: string;
    readonly person: string;
    readonly day: number;
  }[];
  /** Labels, each with the pages whose names hold one of the words. */
  readonly labels: readonly { readonly name: string; readonly words: readonly string[] }[];
  readonly members: readonly { readonly email: string; readonly role: 'owner' | 'publisher' | 'author' | 'reader' }[];
  readonly pages: readonly DemoPage[];
  /** Themes, pieces and shared values; the portfolio has none where it says nothing. */
  readonly stock?: readonly DemoStock[];
  /** What stands around its pages. */
  readonly frames?: readonly DemoPart[];
  /** Documents that its pages lead to. */
  readonly papers?: readonly DemoPaper[];
}

export interface DemoScenario {
  readonly seed: number;
  readonly accounts: readonly { readonly email: string; readonly name: string }[];
  readonly password: string;
  /** Where forms that ask for an e-mail address are sent. */
  readonly listService: string;
  readonly portfolios: readonly DemoPortfolio[];
}
