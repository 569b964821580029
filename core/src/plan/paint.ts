import { before, contains, endOf, interval, intersect, subtract, type Instant, type Interval } from '../time/index.js';
import type { IdSource, RevisionId } from './ids.js';
import type { Answer, LivePeriod, PagePlan, Statement } from './types.js';

/** Revision R from A until B (`null`: open end), and what its address gives afterwards (`null`: back to the plan). */
export interface ReleasePaint {
  readonly revisionId: RevisionId;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly afterwards: Answer | null;
}

/** Nothing from A until B, and what the address gives from A on. */
export interface TakeOffPaint {
  readonly from: Instant;
  readonly until: Instant | null;
  readonly afterwards: Answer;
}

/** A stretch in which a period of the page, planned before, is no longer on the air with its revision. */
export interface Cut {
  readonly revisionId: RevisionId;
  readonly during: Interval;
  /** Whether the cut takes from a period that was to start at or after the paint's own start. */
  readonly isLater: boolean;
}

export interface Painted {
  readonly plan: PagePlan;
  readonly cuts: readonly Cut[];
}

/**
 * The plan with a revision painted over [A, B) (design rule 6). Own periods inside are cut; what started before A
 * ends at A; parts after B stay if they were planned to start at or after B, or under *back to the plan*.
 */
export function paintRelease(plan: PagePlan, paint: ReleasePaint, nextId: IdSource): Painted {
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A release must end after it starts');
  const isBack = paint.afterwards === null && paint.until !== null;
  const kept = keptPeriods(plan.periods, painted, isBack, nextId);
  const id = nextId();
  const period: LivePeriod = {
    id,
    pageId: plan.pageId,
    revisionId: paint.revisionId,
    during: painted,
    leaves:
      paint.until === null || paint.afterwards === null ? null : { answer: paint.afterwards, order: id, until: null },
  };
  const periods = [...kept, period].sort((a, b) => a.during.from - b.during.from);
  const statements = keptStatements(plan.statements, painted, isBack, kept);
  return { plan: { ...plan, periods, statements }, cuts: cutsBetween(plan.periods, kept, painted, paint.revisionId) };
}

/** The plan with nothing painted over [A, B), and what is said from A on even where a period already ended. */
export function paintTakeOff(plan: PagePlan, paint: TakeOffPaint, nextId: IdSource): Painted {
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A stretch must end after it starts');
  const kept = keptPeriods(plan.periods, painted, false, nextId);
  const statements = [
    ...keptStatements(plan.statements, painted, false, kept),
    newStatement(plan, paint.from, paint.afterwards, nextId),
  ];
  return { plan: { ...plan, periods: kept, statements }, cuts: cutsBetween(plan.periods, kept, painted, null) };
}

/** What is said of the address a page has at an instant, from then on. */
export function newStatement(
  { pageId }: PagePlan,
  from: Instant,
  answer: Answer,
  nextId: IdSource,
  place: Statement['place'] = null,
): Statement {
  const id = nextId();
  return { id, kind: 'afterwards', pageId, during: { from, until: null }, answer, rank: from, order: id, place };
}

/** Whether *back to the plan* can be offered for a release that ends at B: the plan has the page live then. */
export function canGoBackToPlan(plan: PagePlan, until: Instant | null): boolean {
  return until !== null && plan.periods.some(({ during }) => contains(during, until));
}

/** The end the sheet proposes: of the period that holds A, with its afterwards, or else the start of the next period. */
export function proposedEnd(plan: PagePlan, from: Instant): { until: Instant | null; afterwards: Answer | null } {
  const holding = plan.periods.find(({ during }) => contains(during, from));
  if (holding) {
    const { until } = holding.during;
    return { until, afterwards: until === null ? null : answerBehind(plan, until) };
  }
  const starts = plan.periods.map(({ during }) => during.from).filter((start) => start > from);
  return { until: starts.length ? (Math.min(...starts) as Instant) : null, afterwards: null };
}

/** What comes after an end of the page: what its period leaves, or what is said from just then on. `null`: nothing. */
export function answerBehind({ periods, statements }: PagePlan, end: Instant): Answer | null {
  const left = periods.flatMap(({ during, leaves }) => (during.until === end && leaves ? [leaves] : []));
  const said = statements.filter(({ rank, kind }) => rank === end && kind === 'afterwards');
  return [...left, ...said].sort((a, b) => b.order - a.order)[0]?.answer ?? null;
}

/** What is left of periods where something is painted over them. */
export function keptPeriods(
  periods: readonly LivePeriod[],
  painted: Interval,
  isBack: boolean,
  nextId: IdSource,
): LivePeriod[] {
  return periods.flatMap((period) => {
    const isPlannedAfter = period.during.from >= endOf(painted);
    return subtract(period.during, painted)
      .filter((part) => part.from < painted.from || isPlannedAfter || isBack)
      .map((during) => ({
        ...period,
        during,
        id: during.from === period.during.from ? period.id : nextId(),
        // Only its own end leaves what was chosen for it; where it is cut, the paint says what comes.
        leaves: during.until === period.during.until ? period.leaves : null,
      }));
  });
}

/**
 * What is still said where periods were cut: all that is said from before the paint on; of the rest what lies behind
 * its end and belongs to the end of a period that is kept or, back to the plan, all of it.
 */
export function keptStatements(
  statements: readonly Statement[],
  painted: Interval,
  isBack: boolean,
  kept: readonly LivePeriod[],
): Statement[] {
  const end = endOf(painted);
  return statements.filter(({ kind, rank, during }) => {
    if (kind !== 'afterwards' || during.from < painted.from) return true;
    if (rank < end) return false;
    return isBack || kept.some((period) => period.during.until === rank && period.during.from >= end);
  });
}

/** Later periods count as cut wherever they are painted over; one that was running only where the revision changes. */
export function cutsBetween(
  old: readonly LivePeriod[],
  kept: readonly LivePeriod[],
  painted: Interval,
  revision: RevisionId | null,
): Cut[] {
  return old.flatMap(({ revisionId, during }) => {
    const isLater = during.from >= painted.from;
    const still: Interval[] = kept.flatMap((period) => intersect(period.during, during) ?? []);
    if (!isLater && revisionId === revision) still.push(painted);
    const parts = still.reduce((rest, one) => rest.flatMap((part) => subtract(part, one)), [during]);
    return parts
      .filter((part) => before(part, painted.from) === null)
      .map((part) => ({ revisionId, during: part, isLater }));
  });
}
