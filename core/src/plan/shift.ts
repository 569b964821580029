import { later, type Instant, type Interval } from '../time/index.js';
import { addressAt } from './paint.js';
import type { IdSource } from './ids.js';
import type { AfterAnswer, Answer, PagePlan, SiteAddress } from './types.js';

/**
 * The plan with everything that is still to come at another time: each start, end and afterwards later than `at` becomes
 * `moved` of it; what began before keeps its start. `null` where that would reach into the past, or where two ends
 * would meet. `moved` must not change the order of instants.
 */
export function shiftPlan(
  plan: PagePlan,
  at: Instant,
  moved: (instant: Instant) => Instant,
  nextId: IdSource,
): PagePlan | null {
  const shift = (instant: Instant) => (instant > at ? moved(instant) : instant);
  const shifted = ({ from, until }: Interval): Interval => ({
    from: shift(from),
    until: until === null ? null : shift(until),
  });
  const isWhole = ({ from, until }: Interval) => until === null || until > from;
  const isAhead = (before: Interval, after: Interval) =>
    (before.from <= at || after.from > at) && (before.until === null || before.until <= at || (after.until ?? at) > at);
  const rows = [...plan.periods, ...plan.answers];
  if (!rows.every(({ during }) => isAhead(during, shifted(during)) && isWhole(shifted(during)))) return null;
  const move = <Row extends { readonly during: Interval; readonly id: AfterAnswer['id'] }>(row: Row): Row => {
    const during = shifted(row.during);
    return { ...row, during, id: during.from === row.during.from ? row.id : nextId() };
  };
  return {
    ...plan,
    periods: plan.periods.map(move),
    answers: plan.answers.map((answer) => {
      // What a move left behind belongs to the move, which stays where it was.
      return answer.kind === 'afterwards' ? { ...move(answer), rank: shift(answer.rank) } : answer;
    }),
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
 * The plan with another answer behind its last end, or from `at` on where that is over already. The plan as it is where
 * it has no end.
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
  const from = Math.max(end, at) as Instant;
  const place = addressAt(plan, later(from, -1), siteAddresses);
  if (!place) return plan;
  const kept = plan.answers.filter(({ kind, during }) => kind !== 'afterwards' || during.from < from);
  const id = nextId();
  const added: AfterAnswer = {
    id,
    kind: 'afterwards',
    pageId: plan.pageId,
    ...{ hostId: place.hostId, path: place.path },
    during: { from, until: null },
    answer,
    rank: from,
    order: id,
  };
  return { ...plan, answers: [...kept, added] };
}
