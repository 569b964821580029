import { before, contains, endOf, fromOn, later, type Instant, type Interval } from '../time/index.js';
import type { IdSource } from './ids.js';
import { answerLeft } from './move.js';
import { addressAt } from './paint.js';
import type { AfterAnswer, PagePlan, SiteAddress } from './types.js';

/**
 * The plan from `at` on as it was in `old`, with the past of `current` left alone (design rule 8). Rows that go on
 * unchanged keep their identity; what comes back is a new row that keeps its rank and order. An address that served
 * only through the undone release redirects to its page, unless `leavesRedirect` is false.
 */
export function putBack(
  old: PagePlan,
  current: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
  leavesRedirect = true,
): PagePlan {
  const same = { placements: samePlacement, periods: samePeriod, answers: sameAnswer };
  const plan: PagePlan = {
    pageId: current.pageId,
    placements: splice(old.placements, current.placements, at, nextId, same.placements),
    periods: splice(old.periods, current.periods, at, nextId, same.periods),
    answers: splice(old.answers, current.answers, at, nextId, same.answers),
  };
  const left = leavesRedirect ? servedOnlyNow(plan, current, at, siteAddresses, nextId) : null;
  return left ? { ...plan, answers: [...plan.answers, left] } : plan;
}

interface Row {
  readonly id: AfterAnswer['id'];
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
  plan: PagePlan,
  current: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): AfterAnswer | null {
  const justBefore = later(at, -1);
  if (!current.periods.some(({ during }) => contains(during, justBefore))) return null;
  const served = addressAt(current, justBefore, siteAddresses);
  if (!served) return null;
  const place = addressAt(plan, at, siteAddresses);
  const isLive = plan.periods.some(({ during }) => contains(during, at));
  const isStillThere = place?.hostId === served.hostId && place.path === served.path;
  return isStillThere || !place || !isLive ? null : answerLeft(plan, served, at, null, nextId);
}

const samePlacement = (a: PagePlan['placements'][number], b: PagePlan['placements'][number]) =>
  a.siteId === b.siteId && a.path === b.path;
const samePeriod = (a: PagePlan['periods'][number], b: PagePlan['periods'][number]) => a.revisionId === b.revisionId;
const sameAnswer = (a: AfterAnswer, b: AfterAnswer) =>
  a.hostId === b.hostId && a.path === b.path && JSON.stringify(a.answer) === JSON.stringify(b.answer);
