import type { PageState } from '../plan/index.js';
import { DAY } from '../time/index.js';
import type { RegisterTable } from './table.js';

/** States by their number in `statesAt`. *Absent* is a page that was not made yet; *binned* shows in the bin only. */
export const STATES = ['live', 'coming', 'ended', 'draft'] as const satisfies readonly PageState[];
export const ABSENT = 4;
export const BINNED = 5;
export const [LIVE, COMING, ENDED, DRAFT] = [0, 1, 2, 3];

/** The period of a row that holds an instant, or `-1`. */
export function periodAt({ first, from, until }: RegisterTable, row: number, at: number): number {
  for (let n = first[row] ?? 0, end = first[row + 1] ?? 0; n < end; n++)
    if ((from[n] as number) <= at && at < (until[n] as number)) return n;
  return -1;
}

/** The state of every row at an instant (design section 2), as its number in `STATES`, `ABSENT` or `BINNED`. */
export function statesAt(table: RegisterTable, at: number): Uint8Array {
  const { size, first, from, until, made } = table;
  const states = new Uint8Array(size);
  for (let row = 0; row < size; row++) {
    if ((made[row] as number) > at) {
      states[row] = ABSENT;
      continue;
    }
    let state = DRAFT;
    for (let n = first[row] as number, end = first[row + 1] as number; n < end; n++) {
      if ((from[n] as number) > at) {
        state = COMING;
        break;
      }
      if (at < (until[n] as number)) {
        state = LIVE;
        break;
      }
      state = ENDED;
    }
    states[row] = state;
  }
  for (const [row, stays] of table.binned)
    if (states[row] !== ABSENT && stays.some(({ from: put, until: back }) => put <= at && (back === null || at < back)))
      states[row] = BINNED;
  return states;
}

/** A live page counts as ending soon in its last fourteen days. */
export const ENDING_SOON = 14 * DAY;

/** When a row's page, live at an instant, comes off: its end where no period follows directly, `Infinity` for never. */
export function endOfRun({ first, until, from }: RegisterTable, row: number, at: number): number {
  let end = Infinity;
  for (let n = first[row] ?? 0, last = first[row + 1] ?? 0; n < last; n++) {
    if ((from[n] as number) <= at && at < (until[n] as number)) end = until[n] as number;
    else if ((from[n] as number) === end) end = until[n] as number;
  }
  return end;
}
