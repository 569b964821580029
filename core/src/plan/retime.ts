import { endOf, interval, type Instant } from '../time/index.js';
import type { IdSource } from './ids.js';
import { answerBehind, cutsBetween, keptPeriods, keptStatements, type Painted } from './paint.js';
import type { Answer, LivePeriod, PagePlan } from './types.js';

/** Other times for a period: from when, until when (`null`: open end), and what its end leaves (`null`: what it left before). */
export interface Retiming {
  readonly from: Instant;
  readonly until: Instant | null;
  readonly afterwards: Answer | null;
}

/** The period of a plan that begins at an instant; `null` where none does. */
export const periodFrom = ({ periods }: PagePlan, start: Instant): LivePeriod | null =>
  periods.find(({ during }) => during.from === start) ?? null;

/** What comes behind the end of a period that is given other times and no answer of its own. */
export function answerKept(plan: PagePlan, period: LivePeriod, { until, afterwards }: Retiming): Answer | null {
  if (until === null) return null;
  const { until: end } = period.during;
  return afterwards ?? (end === null ? null : answerBehind(plan, end));
}

/**
 * The plan with one of its periods at other times, the same revision with what it leaves: nothing is released anew. What
 * lies in its way is cut as a release would cut it (design rule 6); where it was, nothing takes its place.
 */
export function retimePeriod(plan: PagePlan, period: LivePeriod, retiming: Retiming, nextId: IdSource): Painted {
  const during = interval(retiming.from, retiming.until ?? Infinity);
  if (!during) throw new RangeError('A period must end after it starts');
  const others = plan.periods.filter((one) => one !== period);
  const kept = keptPeriods(others, during, false, nextId);
  const answer = answerKept(plan, period, retiming);
  const order = period.leaves?.order ?? nextId();
  const changed: LivePeriod = {
    ...period,
    during,
    id: during.from === period.during.from ? period.id : nextId(),
    leaves: answer === null ? null : { answer, order, until: null },
  };
  // What was said of its old end goes with it.
  const said = plan.statements.filter(
    ({ kind, rank }) => kind !== 'afterwards' || rank !== endOf(period.during) || rank < during.from,
  );
  return {
    plan: {
      ...plan,
      periods: [...kept, changed].sort((a, b) => a.during.from - b.during.from),
      statements: keptStatements(said, during, false, kept),
    },
    cuts: cutsBetween(others, kept, during, period.revisionId),
  };
}
