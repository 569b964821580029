import { ABSENT, BINNED, LIVE, periodAt, statesAt } from './moment.js';
import type { Question } from './asked.js';
import { addressOf, scopedRows } from './view.js';
import type { RegisterTable } from './table.js';

/** How a page is another at a later moment than at an earlier one. */
export type DifferenceKind = 'comes' | 'goes' | 'revision' | 'address';

export interface Difference {
  readonly row: number;
  readonly kind: DifferenceKind;
  /** When it becomes so: the first change between the moments, in milliseconds. */
  readonly at: number;
  /** Revision before and after; 0 where the page is not live. */
  readonly revisions: readonly [before: number, after: number];
}

/** What a scope's pages differ in between two moments, in order of time. A page that comes and goes in between differs in nothing. */
export function differencesBetween(
  table: RegisterTable,
  scope: Question['scope'],
  [first, second]: readonly [number, number],
): Difference[] {
  const [before, after] = [statesAt(table, first), statesAt(table, second)];
  const between = { from: Math.min(first, second), until: Math.max(first, second) };
  const found: Difference[] = [];
  const look = (row: number) => {
    const [was, is] = [before[row] === LIVE, after[row] === LIVE];
    if (!was && !is) return;
    const a = was ? (table.revision[periodAt(table, row, first)] as number) : 0;
    const next = is ? periodAt(table, row, second) : -1;
    const b = is ? (table.revision[next] as number) : 0;
    const note = (kind: DifferenceKind, at: number) => void found.push({ row, kind, at, revisions: [a, b] });
    if (was !== is) return note(is ? 'comes' : 'goes', turnIn(table, row, between, is));
    if (a !== b) note('revision', table.from[next] as number);
    // Addresses are written out only where they can differ: most pages never move.
    if (canMove(table, row) && addressOf(table, row, first) !== addressOf(table, row, second))
      note('address', movedIn(table, row, between));
  };
  scopedRows(table, after, { scope, at: second }).forEach(look);
  for (const row of scopedRows(table, before, { scope, at: first }))
    if (after[row] === ABSENT || after[row] === BINNED) look(row);
  return found.sort((x, y) => x.at - y.at || x.row - y.row);
}

const canMove = ({ columns, moved }: RegisterTable, row: number): boolean =>
  moved.has(row) || (columns.sites[columns.site[row] as number]?.addresses.length ?? 0) > 1;

/** The last turn between two moments at which a page came to be live, or not. */
function turnIn(
  { first, from, until }: RegisterTable,
  row: number,
  { from: a, until: b }: { from: number; until: number },
  comes: boolean,
): number {
  let turn = a;
  for (let n = first[row] as number; n < (first[row + 1] as number); n++) {
    const edge = (comes ? from[n] : until[n]) as number;
    if (edge > a && edge <= b) turn = edge;
  }
  return turn;
}

function movedIn(table: RegisterTable, row: number, { from: a, until: b }: { from: number; until: number }): number {
  const placed = (table.moved.get(row) ?? []).map(({ from }) => from);
  const sites = table.columns.sites.flatMap(({ addresses }) => addresses.map(({ from }) => from));
  return [...placed, ...sites].filter((at) => at > a && at <= b).sort((x, y) => x - y)[0] ?? a;
}

/** How many pages come, go and change between two moments: the count on the frame of *as of*. */
export function differenceCounts(differences: readonly Difference[]): Record<DifferenceKind, number> {
  const counts = { comes: 0, goes: 0, revision: 0, address: 0 };
  for (const { kind } of differences) counts[kind]++;
  return counts;
}
