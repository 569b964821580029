import type { Severities } from '../checks/index.js';
import type { HiddenStretch } from '../metadata/index.js';
import { MINUTE } from '../time/index.js';
import type { RegisterWays } from './ways.js';

/** Roles of pages, by their index in the column. */
export const PAGE_ROLES = ['ordinary', 'home', 'not-found', 'thank-you'] as const;
export type PageRole = (typeof PAGE_ROLES)[number];

/** Where a site's pages lie: its primary address over time, in order. */
export interface SiteAddress {
  readonly from: number;
  readonly until: number | null;
  readonly host: string;
  readonly basePath: string;
  /** `null` for the portfolio’s own host, which is kept out of search. */
  readonly domain: string | null;
}

export interface RegisterSite {
  readonly id: number;
  readonly name: string;
  /** What of findings it takes otherwise than usual. */
  readonly severities: Severities;
  readonly addresses: readonly SiteAddress[];
}

/** Where a page lies during a stretch. */
export interface RegisterPlacement {
  readonly from: number;
  readonly until: number | null;
  /** Index in the sites. */
  readonly site: number;
  readonly path: string;
}

/** What is asked of search engines for a portfolio, a site or a path, over time. */
export interface RobotsSaid {
  readonly siteId: number | null;
  /** As a rule is kept: `null` for the portfolio or the site, else with its path. */
  readonly key: string | null;
  readonly stretches: readonly HiddenStretch[];
}

/** One page as the server reads it and as one row is shown. Instants in milliseconds; indices into the lists beside. */
export interface RegisterEntry {
  readonly id: number;
  readonly name: string;
  readonly role: PageRole;
  readonly version: number;
  /** In order of time; never empty. */
  readonly placements: readonly RegisterPlacement[];
  /** Index in the campaigns, people and people; `-1` for none. */
  readonly campaign: number;
  readonly owner: number;
  readonly changedBy: number;
  readonly changedAt: number;
  /** Index in the templates of the one it was made from; `-1` for none. */
  readonly template: number;
  /** What checks found in it: what would block a release, and what is worth fixing; `null` for nothing. */
  readonly findings: { readonly blocks: number; readonly worthFixing: number } | null;
  /** Indices in the labels. */
  readonly labels: readonly number[];
  readonly redirectsAfter: boolean;
  /** Open tasks, and the earliest day one is due as days since 1970, 0 for none. */
  readonly tasks: { readonly open: number; readonly due: number } | null;
  /** When it was in the bin. */
  readonly binned: readonly { readonly from: number; readonly until: number | null }[];
  /** Periods that are prepared but not decided; `null` begins with the press. */
  readonly prepared: readonly { readonly from: number | null; readonly until: number | null }[];
  readonly periods: readonly { readonly from: number; readonly until: number | null; readonly revision: number }[];
  /** When it asks something of search engines itself, and what that comes to. */
  readonly hidden: readonly HiddenStretch[];
  /** While it names another page for search engines: the identity of that page, `null` for an outside address. */
  readonly elsewhere: readonly { readonly from: number; readonly until: number | null; readonly to: number | null }[];
  /** Visits of the last 30 days and of the 30 before, and the last day with one as days since 1970, 0 for none. */
  readonly visits: number;
  readonly visitsBefore: number;
  readonly lastVisit: number;
}

/** Lines of `robots.txt` that a site has of its own, over time. */
export interface CrawlerLines {
  readonly siteId: number;
  readonly stretches: readonly { readonly from: number; readonly until: number | null; readonly text: string }[];
}

/** What the columns refer to by index. */
export interface RegisterLists {
  readonly sites: readonly RegisterSite[];
  readonly campaigns: readonly { readonly id: number; readonly name: string }[];
  readonly people: readonly { readonly id: number; readonly name: string }[];
  readonly labels: readonly string[];
  /** Pages that are templates. */
  readonly templates: readonly { readonly id: number; readonly name: string }[];
  readonly ways: RegisterWays;
  /** Only where something is asked at any time. */
  readonly robots: readonly RobotsSaid[];
  readonly crawlers: readonly CrawlerLines[];
}

/**
 * The register as it travels: one array a column, so that it is small and quick to read. Instants are minutes; of the
 * periods only differences are sent, from one end to the next start, with 0 for an open end. Whole minutes, which
 * planned instants are, take few digits; others carry a fraction and come back to the millisecond.
 */
export interface RegisterColumns extends RegisterLists {
  readonly ids: readonly number[];
  readonly names: readonly string[];
  readonly roles: readonly number[];
  readonly versions: readonly number[];
  readonly site: readonly number[];
  readonly paths: readonly string[];
  readonly made: readonly number[];
  /** Placements of pages that moved: row, then all of its placements. */
  readonly moved: readonly (readonly [row: number, placements: readonly RegisterPlacement[]])[];
  readonly campaign: readonly number[];
  readonly owner: readonly number[];
  readonly changedBy: readonly number[];
  readonly changedAt: readonly number[];
  readonly template: readonly number[];
  readonly findings: readonly (readonly [row: number, blocks: number, worthFixing: number])[];
  readonly labelled: readonly (readonly [row: number, labels: readonly number[]])[];
  readonly redirectsAfter: readonly number[];
  readonly tasks: readonly (readonly [row: number, open: number, due: number])[];
  readonly prepared: readonly (readonly [row: number, stretches: RegisterEntry['prepared']])[];
  readonly binned: readonly (readonly [row: number, stays: RegisterEntry['binned']])[];
  readonly hidden: readonly (readonly [row: number, stretches: RegisterEntry['hidden']])[];
  readonly elsewhere: readonly (readonly [row: number, stretches: RegisterEntry['elsewhere']])[];
  readonly periods: readonly number[];
  /** Start of its first period, length or 0, then gap and length of each that follows. */
  readonly times: readonly number[];
  readonly revisions: readonly number[];
  readonly visits: readonly number[];
  readonly visitsBefore: readonly number[];
  readonly lastVisit: readonly number[];
}

const minutes = (ms: number) => ms / MINUTE;
/** Milliseconds of minutes that may have lost a little in their fraction. */
export const fromMinutes = (value: number) => Math.round(value * MINUTE);

/** Entries as columns, in the order they are given. */
export function columnsOf(lists: RegisterLists, entries: readonly RegisterEntry[]): RegisterColumns {
  const times: number[] = [];
  for (const { periods } of entries) {
    let last = 0;
    for (const { from, until } of periods) {
      times.push(minutes(from) - last, until === null ? 0 : minutes(until - from));
      last = minutes(until ?? from);
    }
  }
  const at = (entry: RegisterEntry) => entry.placements.at(-1);
  return {
    ...lists,
    ids: entries.map(({ id }) => id),
    names: entries.map(({ name }) => name),
    roles: entries.map(({ role }) => PAGE_ROLES.indexOf(role)),
    versions: entries.map(({ version }) => version),
    site: entries.map((entry) => at(entry)?.site ?? 0),
    paths: entries.map((entry) => at(entry)?.path ?? '/'),
    made: entries.map(({ placements }) => Math.floor(minutes(placements[0]?.from ?? 0))),
    moved: entries.flatMap(({ placements }, row) => (placements.length > 1 ? [[row, placements] as const] : [])),
    campaign: entries.map(({ campaign }) => campaign),
    owner: entries.map(({ owner }) => owner),
    changedBy: entries.map(({ changedBy }) => changedBy),
    changedAt: entries.map(({ changedAt }) => Math.floor(minutes(changedAt))),
    template: entries.map(({ template }) => template),
    findings: entries.flatMap(({ findings }, row) =>
      findings ? [[row, findings.blocks, findings.worthFixing] as const] : [],
    ),
    labelled: entries.flatMap(({ labels }, row) => (labels.length ? [[row, labels] as const] : [])),
    redirectsAfter: entries.map(({ redirectsAfter }) => Number(redirectsAfter)),
    binned: entries.flatMap(({ binned }, row) => (binned.length ? [[row, binned] as const] : [])),
    tasks: entries.flatMap(({ tasks }, row) => (tasks ? [[row, tasks.open, tasks.due] as const] : [])),
    prepared: entries.flatMap(({ prepared }, row) => (prepared.length ? [[row, prepared] as const] : [])),
    hidden: entries.flatMap(({ hidden }, row) => (hidden.length ? [[row, hidden] as const] : [])),
    elsewhere: entries.flatMap(({ elsewhere }, row) => (elsewhere.length ? [[row, elsewhere] as const] : [])),
    periods: entries.map(({ periods }) => periods.length),
    times,
    revisions: entries.flatMap(({ periods }) => periods.map(({ revision }) => revision)),
    visits: entries.map(({ visits }) => visits),
    visitsBefore: entries.map(({ visitsBefore }) => visitsBefore),
    lastVisit: entries.map(({ lastVisit }) => lastVisit),
  };
}
