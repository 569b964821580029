import type { FurtherPeriod, ReleaseChange } from '@domatium/contracts';
import type { WallTime } from '@domatium/core/time';

export type Timed = Extract<ReleaseChange, { act: 'release' }>;

/** A period of a prepared change: the first may begin with the press. */
export type PreparedPeriod = Pick<Timed, 'from' | 'until' | 'afterwards'>;

/** All periods that a change puts on the air, in their order. */
export function periodsOf(change: Timed): readonly PreparedPeriod[] {
  const { from, until, afterwards } = change;
  return [{ from, until, afterwards }, ...(change.further ?? [])];
}

/** The change with other periods; `null` where none is left. */
export function withPeriods(change: Timed, periods: readonly PreparedPeriod[]): Timed | null {
  const [first, ...rest] = periods;
  if (!first) return null;
  const further = rest.flatMap((one): FurtherPeriod[] => (one.from === 'now' ? [] : [{ ...one, from: one.from }]));
  const { further: _, ...plain } = change;
  return { ...plain, ...first, ...(further.length ? { further } : {}) };
}

/** A period that begins or ends at another time; one that gets an end leaves not found, until something else is chosen. */
export function retimed(one: PreparedPeriod, field: 'from' | 'until', wall: WallTime | null): PreparedPeriod {
  if (field === 'from') return { ...one, from: wall ?? 'now' };
  return { ...one, until: wall, afterwards: wall ? (one.afterwards ?? { kind: 'not-found' }) : null };
}
