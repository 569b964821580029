import type { Unfound } from '../metadata/index.js';
import type { Instant } from '../time/index.js';
import type { PageState } from '../plan/index.js';
import type { PageRole } from './columns.js';
import { unfoundAt } from './findable.js';
import { LIVE, STATES } from './moment.js';
import { entryOf, placeAt, type RegisterTable } from './table.js';

/** One page as it is shown: with words for what the table holds as indices, at the address it has at a moment. */
export interface RegisterRow {
  readonly id: number;
  readonly name: string;
  readonly role: PageRole;
  readonly version: number;
  readonly siteId: number;
  readonly siteName: string;
  readonly host: string;
  readonly path: string;
  readonly campaign: string | null;
  readonly owner: string | null;
  readonly labels: readonly string[];
  readonly template: string | null;
  readonly findings: { readonly blocks: number; readonly worthFixing: number } | null;
  readonly changedAt: number;
  readonly changedBy: string | null;
  readonly periods: readonly { readonly from: number; readonly until: number | null; readonly revision: number }[];
  readonly tasks: { readonly open: number; readonly due: number } | null;
  readonly prepared: readonly { readonly from: number | null; readonly until: number | null }[];
  /** Whether its address redirects behind the last end. */
  readonly redirectsAfter: boolean;
  /** Since when it is in the bin at the shown moment, `null` where it is not. */
  readonly binnedSince: number | null;
  /** Why search engines can’t find it at the shown moment if it is live then; `null` where they can. */
  readonly unfoundLive: Unfound | null;
  readonly visits: number;
  readonly visitsBefore: number;
}

/** A row of the table as it is shown at a moment. */
export function rowOf(table: RegisterTable, row: number, at: number): RegisterRow {
  const { columns } = table;
  const entry = entryOf(table, row);
  const { site, host, path } = placeAt(table, row, at);
  const binned = entry.binned.find(({ from, until }) => from <= at && (until === null || at < until));
  return {
    id: entry.id,
    name: entry.name,
    role: entry.role,
    version: entry.version,
    changedAt: entry.changedAt,
    periods: entry.periods,
    prepared: entry.prepared,
    tasks: entry.tasks,
    findings: entry.findings,
    redirectsAfter: entry.redirectsAfter,
    visits: entry.visits,
    visitsBefore: entry.visitsBefore,
    unfoundLive: unfoundAt(table, row, LIVE, at),
    host,
    path,
    binnedSince: binned?.from ?? null,
    siteId: columns.sites[site]?.id ?? 0,
    siteName: columns.sites[site]?.name ?? '',
    campaign: columns.campaigns[entry.campaign]?.name ?? null,
    owner: columns.people[entry.owner]?.name ?? null,
    template: columns.templates[entry.template]?.name ?? null,
    labels: entry.labels.map((index) => columns.labels[index] ?? ''),
    changedBy: columns.people[entry.changedBy]?.name ?? null,
  };
}

/** The state of one shown row at a moment. */
export function rowState({ periods }: Pick<RegisterRow, 'periods'>, at: number): PageState {
  if (periods.some(({ from, until }) => from <= at && (until === null || at < until))) return STATES[0];
  if (periods.some(({ from }) => from > at)) return STATES[1];
  return periods.length ? STATES[2] : STATES[3];
}

/** Why search engines can’t find the page of a shown row; `null` where they can. */
export function rowUnfound(
  row: Pick<RegisterRow, 'periods' | 'redirectsAfter' | 'unfoundLive'>,
  at: number,
): Unfound | null {
  const state = rowState(row, at);
  if (state === 'live') return row.unfoundLive;
  return state === 'ended' && row.redirectsAfter ? 'redirected' : 'not-live';
}

/** The period of a page that a list shows: the one that holds an instant, or else the next, or else the last. */
export function shownPeriod<Period extends { readonly from: number; readonly until: number | null }>(
  periods: readonly Period[],
  at: Instant,
): Period | null {
  return (
    periods.find(({ from, until }) => from <= at && (until === null || at < until)) ??
    periods.find(({ from }) => from > at) ??
    periods.at(-1) ??
    null
  );
}

/** The periods of a page that are to come behind the one that a list shows. */
export function furtherPeriods<Period extends { readonly from: number; readonly until: number | null }>(
  periods: readonly Period[],
  at: Instant,
): Period[] {
  const shown = shownPeriod(periods, at);
  return periods.filter(({ from }) => shown !== null && from > shown.from && from > at);
}
