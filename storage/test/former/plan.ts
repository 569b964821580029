// How plans were changed while answers carried their addresses: kept to make such plans, and for nothing else.
import {
  addressAt as placeAt,
  groupBy,
  type AddressKey,
  type Answer,
  type AnswerKind,
  type Claim,
  type IdSource,
  type LivePeriod,
  type Placement,
  type RevisionId,
  type SiteAddress,
  type SiteId,
} from '@domatium/core/plan';
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
} from '@domatium/core/time';
import type { FormerAnswer, FormerPlan } from '../../src/index.js';

type Period = Omit<LivePeriod, 'leaves'>;
type Placed = Omit<Placement, 'leaves'>;
interface ReleasePaint {
  readonly revisionId: RevisionId;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly afterwards: Answer | null;
}
interface TakeOffPaint {
  readonly from: Instant;
  readonly until: Instant | null;
  readonly afterwards: Answer;
}
interface Move {
  readonly at: Instant;
  readonly siteId: SiteId;
  readonly path: string;
  readonly leaves: Answer | null;
}

const addressAt = (plan: FormerPlan, at: Instant, siteAddresses: readonly SiteAddress[]) =>
  placeAt({ placements: plan.placements as readonly Placement[] }, at, siteAddresses);

/** The claims of the layer `after` as they were derived. */
export function formerClaims(answers: readonly FormerAnswer[]): Claim[] {
  const byAddress = groupBy(answers, (answer) => `${answer.hostId} ${answer.path}`);
  return [...byAddress.values()].flatMap(cutAnswers);
}

const KIND_ORDER: Record<AnswerKind, number> = { move: 0, afterwards: 1, exact: 2 };

/** Positive where `a` holds over `b`: the later start, then the kind, then the higher identity. */
export function comparePrecedence(a: FormerAnswer, b: FormerAnswer): number {
  return a.rank - b.rank || KIND_ORDER[a.kind] - KIND_ORDER[b.kind] || a.order - b.order || a.id - b.id;
}

function cutAnswers(answers: readonly FormerAnswer[]): Claim[] {
  const byPrecedence = [...answers].sort((a, b) => comparePrecedence(b, a));
  const instants = [...new Set(answers.flatMap(({ during }) => [during.from as number, endOf(during)]))].sort(
    (a, b) => a - b,
  );
  const claims: Claim[] = [];
  let last: { holder: FormerAnswer; from: number; until: number } | null = null;
  const close = () => {
    const during = last && interval(last.from, last.until);
    if (!last || !during) return;
    const { id: sourceId, hostId, path, pageId, answer } = last.holder;
    claims.push({ layer: 'after', hostId, path, during, pageId, answer, sourceId });
  };
  instants.slice(0, -1).forEach((from, index) => {
    const until = instants[index + 1] ?? Infinity;
    const holder = byPrecedence.find(({ during }) => during.from <= from && from < endOf(during));
    if (holder && last?.holder === holder && last.until === from) {
      last.until = until;
      return;
    }
    close();
    last = holder ? { holder, from, until } : null;
  });
  close();
  return claims;
}

/**
 * The plan with a revision painted over [A, B) (design rule 6). Own periods inside are cut; what started before A
 * ends at A; parts after B stay if they were planned to start at or after B, or under *back to the plan*.
 */
export function paintRelease(
  plan: FormerPlan,
  paint: ReleasePaint,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerPlan {
  const { pageId } = plan;
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A release must end after it starts');
  const isBack = paint.afterwards === null && paint.until !== null;
  const kept = keptPeriods(plan.periods, painted, isBack, nextId);
  const period: Period = { id: nextId(), pageId, revisionId: paint.revisionId, during: painted };
  const periods = [...kept, period].sort((a, b) => a.during.from - b.during.from);
  const answers = keptAnswers(plan.answers, painted, isBack, kept, nextId);
  if (paint.until !== null && paint.afterwards !== null) {
    const place = addressAt(plan, later(paint.until, -1), siteAddresses);
    if (place) answers.push(newAnswer(plan, place, paint.until, paint.afterwards, nextId));
  }
  return { ...plan, periods, answers };
}

/** The plan with nothing painted over [A, B), and the afterwards from A on even where a period already ended. */
export function paintTakeOff(
  plan: FormerPlan,
  paint: TakeOffPaint,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerPlan {
  const painted = interval(paint.from, paint.until ?? Infinity);
  if (!painted) throw new RangeError('A stretch must end after it starts');
  const kept = keptPeriods(plan.periods, painted, false, nextId);
  const answers = keptAnswers(plan.answers, painted, false, kept, nextId);
  const place = addressAt(plan, paint.from, siteAddresses);
  if (place) answers.push(newAnswer(plan, place, paint.from, paint.afterwards, nextId));
  return { ...plan, periods: kept, answers };
}

function keptPeriods(periods: readonly Period[], painted: Interval, isBack: boolean, nextId: IdSource): Period[] {
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
  answers: readonly FormerAnswer[],
  painted: Interval,
  isBack: boolean,
  kept: readonly Period[],
  nextId: IdSource,
): FormerAnswer[] {
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

function newAnswer(plan: FormerPlan, place: AddressKey, from: Instant, answer: Answer, nextId: IdSource): FormerAnswer {
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

/**
 * The plan with the page at another site or path from an instant on (design rule 7). A planned later move stays. The
 * afterwards of periods that are still to end follow the page; those of past periods stay where they were.
 */
export function movePage(
  plan: FormerPlan,
  move: Move,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerPlan {
  const current = plan.placements.find(({ during }) => contains(during, move.at));
  if (!current) throw new RangeError('The page has no place at that instant');
  const placements = plan.placements.flatMap((placement): Placed[] => {
    if (placement !== current) return [placement];
    const kept = before(placement.during, move.at);
    const next = fromOn(placement.during, move.at);
    return [
      ...(kept ? [{ ...placement, during: kept }] : []),
      ...(next ? [{ id: nextId(), pageId: plan.pageId, siteId: move.siteId, path: move.path, during: next }] : []),
    ];
  });
  const moved = { ...plan, placements };
  const answers = plan.answers.map((answer) => follow(answer, moved, move.at, siteAddresses));
  const left = leftBehind(plan, moved, move, siteAddresses, nextId);
  return { ...moved, answers: left ? [...answers, left] : answers };
}

function follow(
  answer: FormerAnswer,
  moved: FormerPlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
): FormerAnswer {
  if (answer.kind !== 'afterwards' || answer.during.from <= at) return answer;
  const place = addressAt(moved, later(answer.during.from, -1), siteAddresses);
  return place ? { ...answer, hostId: place.hostId, path: place.path } : answer;
}

function leftBehind(
  plan: FormerPlan,
  moved: FormerPlan,
  move: Move,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerAnswer | null {
  const justBefore = later(move.at, -1);
  if (!plan.periods.some(({ during }) => contains(during, justBefore))) return null;
  const old = addressAt(plan, justBefore, siteAddresses);
  const place = addressAt(moved, move.at, siteAddresses);
  if (!old || (place?.hostId === old.hostId && place.path === old.path)) return null;
  return answerLeft(plan, old, move.at, move.leaves, nextId);
}

/** The answer an address keeps for a page that left it: what was chosen, or a redirect to the page by reference. */
export function answerLeft(
  plan: FormerPlan,
  old: { readonly hostId: FormerAnswer['hostId']; readonly path: string },
  at: Instant,
  chosen: Answer | null,
  nextId: IdSource,
): FormerAnswer {
  const id = nextId();
  const answer = chosen ?? { kind: 'redirect', target: { kind: 'page', pageId: plan.pageId }, status: 301 };
  const { hostId, path } = old;
  return {
    id,
    kind: 'move',
    pageId: plan.pageId,
    hostId,
    path,
    during: { from: at, until: null },
    answer,
    rank: at,
    order: id,
  };
}

/**
 * The plan with everything that is still to come at another time: each start, end and afterwards later than `at` becomes
 * `moved` of it; what began before keeps its start. `null` where that would reach into the past, or where two ends
 * would meet. `moved` must not change the order of instants.
 */
export function shiftPlan(
  plan: FormerPlan,
  at: Instant,
  moved: (instant: Instant) => Instant,
  nextId: IdSource,
): FormerPlan | null {
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
  const move = <Row extends { readonly during: Interval; readonly id: FormerAnswer['id'] }>(row: Row): Row => {
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

/** When a page is off for good, as far as is planned: its last end, `null` where that is open, -Infinity without periods. */
export function lastEnd({ periods }: FormerPlan): number | null {
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
  plan: FormerPlan,
  at: Instant,
  answer: Answer,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerPlan {
  const end = lastEnd(plan);
  if (end === null || end === -Infinity) return plan;
  const from = Math.max(end, at) as Instant;
  const place = addressAt(plan, later(from, -1), siteAddresses);
  if (!place) return plan;
  const kept = plan.answers.filter(({ kind, during }) => kind !== 'afterwards' || during.from < from);
  const id = nextId();
  const added: FormerAnswer = {
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

/**
 * The plan from `at` on as it was in `old`, with the past of `current` left alone (design rule 8). Rows that go on
 * unchanged keep their identity; what comes back is a new row that keeps its rank and order. An address that served
 * only through the undone release redirects to its page, unless `leavesRedirect` is false.
 */
export function putBack(
  old: FormerPlan,
  current: FormerPlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
  leavesRedirect = true,
): FormerPlan {
  const same = { placements: samePlaced, periods: samePeriod, answers: sameAnswer };
  const plan: FormerPlan = {
    pageId: current.pageId,
    placements: splice(old.placements, current.placements, at, nextId, same.placements),
    periods: splice(old.periods, current.periods, at, nextId, same.periods),
    answers: splice(old.answers, current.answers, at, nextId, same.answers),
  };
  const left = leavesRedirect ? servedOnlyNow(plan, current, at, siteAddresses, nextId) : null;
  return left ? { ...plan, answers: [...plan.answers, left] } : plan;
}

interface Row {
  readonly id: FormerAnswer['id'];
  readonly during: Interval;
}

function splice<T extends Row>(
  old: readonly T[],
  current: readonly T[],
  at: Instant,
  nextId: IdSource,
  isSame: (a: T, b: T) => boolean,
): T[] {
  const past = current.flatMap((row) => {
    const during = before(row.during, at);
    return during ? [{ ...row, during }] : [];
  });
  const joined = new Set<T>();
  const future = old.flatMap((row): T[] => {
    const during = fromOn(row.during, at);
    if (!during) return [];
    // A row that is in force right up to `at` just goes on; so does one that has not begun.
    const goesOn = past.find(
      (kept) => !joined.has(kept) && kept.id === row.id && endOf(kept.during) === during.from && isSame(kept, row),
    );
    if (goesOn) joined.add(goesOn);
    if (goesOn) return [{ ...row, during: { from: goesOn.during.from, until: during.until } }];
    return [{ ...row, during, id: row.during.from >= at ? row.id : nextId() }];
  });
  return [...past.filter((row) => !joined.has(row)), ...future].sort((a, b) => a.during.from - b.during.from);
}

function servedOnlyNow(
  plan: FormerPlan,
  current: FormerPlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): FormerAnswer | null {
  const justBefore = later(at, -1);
  if (!current.periods.some(({ during }) => contains(during, justBefore))) return null;
  const served = addressAt(current, justBefore, siteAddresses);
  if (!served) return null;
  const place = addressAt(plan, at, siteAddresses);
  const isLive = plan.periods.some(({ during }) => contains(during, at));
  const isStillThere = place?.hostId === served.hostId && place.path === served.path;
  return isStillThere || !place || !isLive ? null : answerLeft(plan, served, at, null, nextId);
}

const samePlaced = (a: FormerPlan['placements'][number], b: FormerPlan['placements'][number]) =>
  a.siteId === b.siteId && a.path === b.path;
const samePeriod = (a: FormerPlan['periods'][number], b: FormerPlan['periods'][number]) =>
  a.revisionId === b.revisionId;
const sameAnswer = (a: FormerAnswer, b: FormerAnswer) =>
  a.hostId === b.hostId && a.path === b.path && JSON.stringify(a.answer) === JSON.stringify(b.answer);
