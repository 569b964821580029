import type { RegisterTable } from './table.js';

export type MarkKind = 'live' | 'off';

/** One thing on the time rail. */
export interface Mark {
  readonly at: number;
  readonly kind: MarkKind;
  readonly name: string;
}

export interface MarkGroup {
  readonly at: number;
  readonly kind: MarkKind;
  readonly count: number;
  /** The first few, for words; all of them would be too much for a tip. */
  readonly marks: readonly Mark[];
}

const NAMED = 8;

/** What goes live and comes off among rows during a stretch, in order. A revision that follows directly is no change of state. */
export function marksOf(
  table: RegisterTable,
  rows: Int32Array,
  { from: a, until: b }: { from: number; until: number },
): Mark[] {
  const { first, from, until, columns } = table;
  const marks: Mark[] = [];
  for (const row of rows) {
    const [begin, end] = [first[row] as number, first[row + 1] as number];
    for (let n = begin; n < end; n++) {
      const [start, stop] = [from[n] as number, until[n] as number];
      const name = columns.names[row] as string;
      if (start >= a && start < b && !(n > begin && until[n - 1] === start))
        marks.push({ at: start, kind: 'live', name });
      if (stop >= a && stop < b && !(n + 1 < end && from[n + 1] === stop)) marks.push({ at: stop, kind: 'off', name });
    }
  }
  return marks.sort((x, y) => x.at - y.at);
}

/** A number of more digits needs more room beside the next. */
const room = (count: number) => 1 + 0.6 * (String(count).length - 1);

/**
 * Marks that would touch become one; what is past and what is to come are never gathered together. `closest` is the
 * distance of marks that just do not touch, in milliseconds, of those whose number has one digit.
 */
export function gatherMarks(marks: readonly Mark[], closest: number, now: number): MarkGroup[] {
  const groups: { at: number; kind: MarkKind; count: number; lives: number; marks: Mark[] }[] = [];
  for (const mark of marks) {
    const group = groups.at(-1);
    if (group && mark.at - group.at < closest * room(group.count + 1) && mark.at <= now === group.at <= now) {
      group.count++;
      group.lives += Number(mark.kind === 'live');
      group.kind = group.lives * 2 >= group.count ? 'live' : 'off';
      if (group.marks.length < NAMED) group.marks.push(mark);
    } else
      groups.push({
        at: mark.at,
        kind: mark.kind,
        count: 1,
        lives: Number(mark.kind === 'live'),
        marks: [mark],
      });
  }
  return groups.map(({ at, kind, count, marks: some }) => ({ at, kind, count, marks: some }));
}

/** The next instant after `at` at which one of these rows' pages goes live, comes off or changes revision; `null` for none. */
export function nextChange({ first, from, until }: RegisterTable, rows: Int32Array, at: number): number | null {
  let next = Infinity;
  for (const row of rows)
    for (let n = first[row] as number; n < (first[row + 1] as number); n++) {
      if ((from[n] as number) > at && (from[n] as number) < next) next = from[n] as number;
      if ((until[n] as number) > at && (until[n] as number) < next) next = until[n] as number;
    }
  return next === Infinity ? null : next;
}
