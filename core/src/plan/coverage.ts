import type { Instant, Interval } from '../time/index.js';
import { endOf } from '../time/index.js';

/** A stretch in which a page was to be live, and is not. */
export interface Uncovered {
  /** `never`: at no time; `late`: it begins after the stretch does; `early`: it ends before it; `gap`: in between. */
  readonly kind: 'never' | 'late' | 'early' | 'gap';
  readonly from: Instant;
  readonly until: Instant;
}

/** Where periods leave a stretch of time uncovered, in order. Periods are in order and do not overlap. */
export function uncovered(
  periods: readonly Interval[],
  { from, until }: { readonly from: Instant; readonly until: Instant },
): Uncovered[] {
  const inside = periods.filter((period) => period.from < until && endOf(period) > from);
  if (!inside.length) return [{ kind: 'never', from, until }];
  const gaps: Uncovered[] = [];
  let at = from;
  for (const period of inside) {
    if (period.from > at) gaps.push({ kind: at === from ? 'late' : 'gap', from: at, until: period.from });
    const end = endOf(period);
    if (end >= until) return gaps;
    at = end as Instant;
  }
  return [...gaps, { kind: 'early', from: at, until }];
}
