import { later, type Instant, type Interval } from '../time/index.js';
import type { IdSource } from './ids.js';
import { newStatement } from './paint.js';
import { addressAt } from './places.js';
import { isSamePlace } from './answers.js';
import type { Answer, LivePeriod, PagePlan, SiteAddress, Statement } from './types.js';

/** Why a shift can't be: it would change what is over, or two instants of the plan would change their order. */
export type ShiftFault =
  { readonly kind: 'past' } | { readonly kind: 'order'; readonly earlier: Instant; readonly later: Instant };

/**
 * The plan with everything that is still to come at another time: each start, end and statement later than `at` becomes
 * `moved` of it, with what it leaves; what began before keeps its start. Moves stay where they are.
 */
export function shiftPlan(
  plan: PagePlan,
  at: Instant,
  moved: (instant: Instant) => Instant,
  nextId: IdSource,
): PagePlan | ShiftFault {
  const shift = (instant: Instant) => (instant > at ? moved(instant) : instant);
  const instants = [
    ...new Set([...plan.periods, ...plan.statements].flatMap(({ during }) => [during.from, during.until ?? []]).flat()),
  ]
    .filter((instant) => instant > at)
    .sort((a, b) => a - b);
  const reversed = instants.findIndex((instant, index) => {
    const next = instants[index + 1];
    return next !== undefined && moved(next) <= moved(instant);
  });
  if (reversed >= 0)
    return { kind: 'order', earlier: instants[reversed] as Instant, later: instants[reversed + 1] as Instant };
  if (instants.some((instant) => moved(instant) <= at)) return { kind: 'past' };
  const move = <Row extends LivePeriod | Statement>(row: Row): Row => {
    const { from, until } = row.during;
    const during: Interval = { from: shift(from), until: until === null ? null : shift(until) };
    return { ...row, during, id: during.from === from ? row.id : nextId() };
  };
  return {
    ...plan,
    periods: plan.periods.map(move),
    statements: plan.statements.map((said) => ({ ...move(said), rank: shift(said.rank) })),
  };
}

/** Whether a plan has anything that is still to come: without, a shift changes nothing. */
export function isAnythingAhead({ periods }: PagePlan, at: Instant): boolean {
  return periods.some(({ during: { from, until } }) => from > at || (until !== null && until > at));
}

/** When a page is off for good, as far as is planned: its last end, `null` where that is open, -Infinity without periods. */
export function lastEnd({ periods }: PagePlan): number | null {
  let last = -Infinity;
  for (const { during } of periods) {
    if (during.until === null) return null;
    last = Math.max(last, during.until);
  }
  return last;
}

/**
 * The plan with another answer behind its last end; where that is over already, it is said from `at` on of the address
 * the page ended at, and of the one it has moved to since. The plan as it is where it has no end.
 */
export function setAfterwards(
  plan: PagePlan,
  at: Instant,
  answer: Answer,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): PagePlan {
  const end = lastEnd(plan);
  if (end === null || end === -Infinity) return plan;
  const from = Math.max(end, at);
  const statements = plan.statements.filter(({ kind, during }) => kind !== 'afterwards' || during.from < from);
  if (end > at) {
    const leaves = { answer, order: nextId(), until: null };
    const periods = plan.periods.map((period) => (period.during.until === end ? { ...period, leaves } : period));
    return { ...plan, periods, statements };
  }
  const [ended, now] = [addressAt(plan, later(end as Instant, -1), siteAddresses), addressAt(plan, at, siteAddresses)];
  const isElsewhere = ended !== null && (now === null || !isSamePlace(ended, now));
  return {
    ...plan,
    statements: [
      ...statements,
      ...(now ? [newStatement(plan, at, answer, nextId)] : []),
      ...(isElsewhere ? [newStatement(plan, at, answer, nextId, { hostId: ended.hostId, path: ended.path })] : []),
    ],
  };
}
