import { isEndingSoon, stateAt, type PageState } from '../plan/index.js';
import { fold } from '../text/index.js';
import { contains, DAY, endOf, type Instant, type Interval } from '../time/index.js';

/** What the register needs of a page to find, filter, sort and draw it. */
export interface RegisterRow {
  readonly id: number;
  readonly name: string;
  readonly siteId: number;
  readonly host: string;
  readonly path: string;
  readonly campaignId: number | null;
  readonly periods: readonly { readonly from: number; readonly until: number | null }[];
}

/** The places of the scope column; `null` is the whole portfolio. */
export type Scope =
  | { readonly kind: 'domain'; readonly name: string }
  | { readonly kind: 'site'; readonly id: number }
  | { readonly kind: 'campaign'; readonly id: number }
  | null;

/** States of the chips above the list. *Ending soon* is a filter within live. */
export const STATE_FILTERS = ['all', 'live', 'coming', 'ending', 'ended', 'draft'] as const;
export type StateFilter = (typeof STATE_FILTERS)[number];

/** A live page counts as ending soon in its last fourteen days. */
export const ENDING_SOON = 14 * DAY;

const intervalsOf = (row: RegisterRow): { during: Interval }[] =>
  row.periods.map((period) => ({ during: period as Interval }));

export function rowState(row: RegisterRow, at: Instant): PageState {
  return stateAt(intervalsOf(row), at);
}

/** Whether a row belongs to a scope; a site belongs to the domain its host is under. */
export function isInScope(row: RegisterRow, scope: Scope, domainOfSite: ReadonlyMap<number, string | null>): boolean {
  if (scope === null) return true;
  if (scope.kind === 'site') return row.siteId === scope.id;
  if (scope.kind === 'campaign') return row.campaignId === scope.id;
  return domainOfSite.get(row.siteId) === scope.name;
}

export function hasState(row: RegisterRow, filter: StateFilter, at: Instant): boolean {
  if (filter === 'all') return true;
  if (filter === 'ending') return rowState(row, at) === 'live' && isEndingSoon(intervalsOf(row), at, ENDING_SOON);
  return rowState(row, at) === filter;
}

/** How many rows each chip would show. */
export function stateCounts(rows: readonly RegisterRow[], at: Instant): Record<StateFilter, number> {
  const counts = { all: rows.length, live: 0, coming: 0, ending: 0, ended: 0, draft: 0 };
  for (const row of rows) {
    counts[rowState(row, at)]++;
    if (hasState(row, 'ending', at)) counts.ending++;
  }
  return counts;
}

/** Rows whose name or address holds every word of what was typed, accents and case aside. */
export function found<Row extends RegisterRow>(rows: readonly Row[], typed: string): readonly Row[] {
  const words = fold(typed).split(' ').filter(Boolean);
  if (!words.length) return rows;
  return rows.filter((row) => {
    const text = fold(`${row.name} ${row.host}${row.path}`);
    return words.every((word) => text.includes(word));
  });
}

export type MarkKind = 'live' | 'off' | 'release';

/** One thing on the time rail. */
export interface Mark {
  readonly at: number;
  readonly kind: MarkKind;
  readonly name: string;
}

/** What goes live and comes off among rows, in order. A revision that follows another directly is not a change of state. */
export function marksOf(rows: readonly RegisterRow[], during: Interval): Mark[] {
  const marks: Mark[] = [];
  for (const { name, periods } of rows)
    for (const { from, until } of periods) {
      if (contains(during, from as Instant) && !periods.some((other) => other.until === from))
        marks.push({ at: from, kind: 'live', name });
      if (until !== null && contains(during, until as Instant) && !periods.some((other) => other.from === until))
        marks.push({ at: until, kind: 'off', name });
    }
  return marks.sort((a, b) => a.at - b.at);
}

export interface MarkGroup {
  readonly at: number;
  readonly kind: MarkKind;
  readonly marks: readonly Mark[];
}

/** Marks that would touch become one; what is past and what is to come are never gathered together. */
export function gatherMarks(marks: readonly Mark[], closest: number, now: number): MarkGroup[] {
  const groups: { at: number; kind: MarkKind; marks: Mark[] }[] = [];
  for (const mark of [...marks].sort((a, b) => a.at - b.at)) {
    const last = groups.at(-1);
    if (last && mark.at - last.at < closest && mark.at <= now === last.at <= now) {
      last.marks.push(mark);
      const lives = last.marks.filter(({ kind }) => kind === 'live').length;
      last.kind = lives * 2 >= last.marks.length ? 'live' : 'off';
    } else groups.push({ at: mark.at, kind: mark.kind, marks: [mark] });
  }
  return groups;
}

/** The next instant at which a page goes live, comes off, or changes revision. */
export function nextChange(rows: readonly RegisterRow[], now: Instant): number | null {
  let next = Infinity;
  for (const { periods } of rows)
    for (const period of periods)
      for (const at of [period.from, endOf(period as Interval)]) if (at > now && at < next) next = at;
  return next === Infinity ? null : next;
}
