import {
  before,
  contains,
  endOf,
  fromOn,
  interval,
  later,
  subtract,
  type Instant,
  type Interval,
} from '../time/index.js';
import { pageAddressesOf } from './claims.js';
import type { IdSource, RevisionId } from './ids.js';
import type { AddressKey, AfterAnswer, Answer, LivePeriod, PagePlan, SiteAddress } from './types.js';

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
export function paintRelease(
  plan: PagePlan,
  paint: ReleasePaint,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): Painted {
  const { pageId } = plan;
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A release must end after it starts');
  const isBack = paint.afterwards === null && paint.until !== null;
  const kept = keptPeriods(plan.periods, painted, isBack, nextId);
  const period: LivePeriod = { id: nextId(), pageId, revisionId: paint.revisionId, during: painted };
  const periods = [...kept, period].sort((a, b) => a.during.from - b.during.from);
  const answers = keptAnswers(plan.answers, painted, isBack, kept, nextId);
  if (paint.until !== null && paint.afterwards !== null) {
    const place = addressAt(plan, later(paint.until, -1), siteAddresses);
    if (place) answers.push(newAnswer(plan, place, paint.until, paint.afterwards, nextId));
  }
  return { plan: { ...plan, periods, answers }, cuts: cutsBetween(plan.periods, periods, painted) };
}

/** The plan with nothing painted over [A, B), and the afterwards from A on even where a period already ended. */
export function paintTakeOff(
  plan: PagePlan,
  paint: TakeOffPaint,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): Painted {
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A stretch must end after it starts');
  const kept = keptPeriods(plan.periods, painted, false, nextId);
  const answers = keptAnswers(plan.answers, painted, false, kept, nextId);
  const place = addressAt(plan, paint.from, siteAddresses);
  if (place) answers.push(newAnswer(plan, place, paint.from, paint.afterwards, nextId));
  return { plan: { ...plan, periods: kept, answers }, cuts: cutsBetween(plan.periods, kept, painted) };
}

/** Whether *back to the plan* can be offered for a release that ends at B: the plan has the page live then. */
export function canGoBackToPlan(plan: PagePlan, until: Instant | null): boolean {
  return until !== null && plan.periods.some(({ during }) => contains(during, until));
}

/** The end the sheet proposes: of the period that holds A, with its afterwards, or the start of the next period. */
export function proposedEnd(plan: PagePlan, from: Instant): { until: Instant | null; afterwards: Answer | null } {
  const holding = plan.periods.find(({ during }) => contains(during, from));
  if (holding) {
    const { until } = holding.during;
    const answer = plan.answers.find(({ kind, rank }) => kind === 'afterwards' && rank === until)?.answer ?? null;
    return { until, afterwards: answer };
  }
  const starts = plan.periods.map(({ during }) => during.from).filter((start) => start > from);
  return { until: starts.length ? (Math.min(...starts) as Instant) : null, afterwards: null };
}

/** Where a page lies at an instant, live or not. */
export function addressAt(plan: PagePlan, at: Instant, siteAddresses: readonly SiteAddress[]): AddressKey | null {
  return pageAddressesOf(plan.placements, siteAddresses).find(({ during }) => contains(during, at)) ?? null;
}

function keptPeriods(
  periods: readonly LivePeriod[],
  painted: Interval,
  isBack: boolean,
  nextId: IdSource,
): LivePeriod[] {
  return periods.flatMap((period) => {
    const isPlannedAfter = period.during.from >= endOf(painted);
    return subtract(period.during, painted)
      .filter((part) => part.from < painted.from || isPlannedAfter || isBack)
      .map((during) => ({ ...period, during, id: during.from === period.during.from ? period.id : nextId() }));
  });
}

/**
 * The page's answers where periods were cut. What began before the paint stays; of what was to begin at or after it,
 * only what still belongs to the end of a period that is kept (or, back to the plan, all of it after the end).
 */
function keptAnswers(
  answers: readonly AfterAnswer[],
  painted: Interval,
  isBack: boolean,
  kept: readonly LivePeriod[],
  nextId: IdSource,
): AfterAnswer[] {
  const end = painted.until;
  return answers.flatMap((answer) => {
    const { during, kind } = answer;
    if (kind !== 'afterwards' || during.from < painted.from) return [answer];
    if (isBack && end !== null) {
      const rest = fromOn(during, end);
      return rest ? [{ ...answer, during: rest, id: rest.from === during.from ? answer.id : nextId() }] : [];
    }
    const isOfKept = kept.some((period) => period.during.until === during.from && period.during.from >= endOf(painted));
    return during.from > endOf(painted) && isOfKept ? [answer] : [];
  });
}

function newAnswer(plan: PagePlan, place: AddressKey, from: Instant, answer: Answer, nextId: IdSource): AfterAnswer {
  const id = nextId();
  const { hostId, path } = place;
  return {
    id,
    kind: 'afterwards',
    pageId: plan.pageId,
    hostId,
    path,
    during: { from, until: null },
    answer,
    rank: from,
    order: id,
  };
}

/** Later periods count as cut wherever they are painted over; one that was running only where the revision changes. */
function cutsBetween(old: readonly LivePeriod[], kept: readonly LivePeriod[], painted: Interval): Cut[] {
  return old.flatMap(({ id, revisionId, during }) => {
    const isLater = during.from >= painted.from;
    const still = kept.filter((period) => period.revisionId === revisionId && (!isLater || period.id === id));
    const parts = still.reduce((rest, period) => rest.flatMap((part) => subtract(part, period.during)), [during]);
    return parts
      .filter((part) => before(part, painted.from) === null)
      .map((part) => ({ revisionId, during: part, isLater }));
  });
}
