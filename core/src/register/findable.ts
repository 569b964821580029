import { unfoundOf, type Unfound } from '../metadata/index.js';
import { PAGE_ROLES } from './columns.js';
import { ENDED, LIVE } from './moment.js';
import { lyingAt, type RegisterTable } from './table.js';

/** Why search engines can't find the page of a row at a moment, in the state it has then; `null` where they can. */
export function unfoundAt(table: RegisterTable, row: number, state: number, at: number): Unfound | null {
  const { columns, hidden, ways } = table;
  const role = PAGE_ROLES[columns.roles[row] as number];
  const held = hidden.get(row)?.find(({ from, until }) => from <= at && (until === null || at < until));
  return unfoundOf({
    isLive: state === LIVE,
    isRedirected: state === ENDED && columns.redirectsAfter[row] === 1,
    isNotFoundPage: role === 'not-found',
    isOwnHost: (lyingAt(table, row, at).address?.domain ?? null) === null,
    hiding: held?.why ?? null,
    isLedTo: role === 'home' || ways.at(at).linked.has(columns.ids[row] as number),
  });
}

/** Whether a live page among these rows can be found at one of two moments only, or not for the same reason. */
export function areFoundOtherwise(table: RegisterTable, rows: Iterable<number>, a: number, b: number): boolean {
  for (const stretches of table.hidden.values()) {
    const held = (at: number) => stretches.findIndex(({ from, until }) => from <= at && (until === null || at < until));
    if (held(a) !== held(b)) return true;
  }
  const { linked: was } = table.ways.at(a);
  const { linked: is } = table.ways.at(b);
  if (was === is) return false;
  for (const row of rows) {
    const id = table.columns.ids[row] as number;
    if (was.has(id) !== is.has(id)) return true;
  }
  return false;
}
