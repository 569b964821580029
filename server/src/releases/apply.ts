import type { AnswerInput, MomentInput, ReleaseChange, WallTimeInput } from '@domatium/contracts';
import { checkTypedPath } from '@domatium/core/address';
import {
  addressAt,
  canGoBackToPlan,
  isAnythingAhead,
  lastEnd,
  movePage,
  paintRelease,
  paintTakeOff,
  putBack,
  setAfterwards,
  shiftPlan,
  type Answer,
  type Cut,
  type IdSource,
  type PageId,
  type PagePlan,
  type RevisionId,
  type SiteAddress,
  type SiteId,
} from '@domatium/core/plan';
import { contains, daysLater, endOf, instantOfWall, type Instant } from '@domatium/core/time';

export interface AppliedCut extends Cut {
  readonly pageId: PageId;
}

export interface Applied {
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  readonly cuts: readonly AppliedCut[];
  /** When each change begins, in the order of the changes. */
  readonly starts: readonly Instant[];
  readonly faults: readonly { readonly path: string; readonly message: string }[];
}

/** What is known where changes are applied. */
export interface Ground {
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  readonly siteAddresses: readonly SiteAddress[];
  readonly zone: string;
  /** Pages in the bin, each with the plan it had before; `null` where it has been deleted for ever. */
  readonly binned: ReadonlyMap<PageId, PagePlan | null>;
}

/**
 * What changes make of plans, decided at `instant`: pure, for the preview and the press alike. Faults name the field
 * they belong to; a change with faults is left out.
 */
export function applyChanges(
  changes: readonly ReleaseChange[],
  { plans, siteAddresses, zone, binned }: Ground,
  instant: Instant,
  revisionOf: (pageId: PageId) => RevisionId,
  nextId: IdSource,
): Applied {
  const next = new Map<PageId, PagePlan>();
  const cuts: AppliedCut[] = [];
  const faults: { path: string; message: string }[] = [];
  const starts: Instant[] = [];
  changes.forEach((change, index) => {
    const fault = (field: string, message: string) => void faults.push({ path: `changes[${index}].${field}`, message });
    const pageId = change.pageId as PageId;
    const plan = next.get(pageId) ?? plans.get(pageId);
    const start = startOf(change, instant);
    starts.push(start);
    if (!plan) return fault('pageId', 'There is no such page here.');
    if (start < instant) return fault(change.act === 'move' ? 'at' : 'from', 'That time is over. Choose a later one.');
    const count = faults.length;
    const inBin = binned.get(pageId);
    if (inBin === null) return fault('pageId', 'It has been deleted for ever.');
    if (change.act === 'restore') {
      if (!inBin) return fault('pageId', 'It is not in the bin.');
      const restored = restoreChange(change, inBin, plan, instant, siteAddresses, fault, nextId);
      if (restored) next.set(pageId, restored);
      return;
    }
    if (inBin) return fault('pageId', 'It is in the bin. Restore it first.');
    if (change.act === 'bin') {
      checkAnswer(change.afterwards, 'afterwards', pageId, plans, fault);
      if (faults.length > count) return;
      const isOff = !plan.periods.some(({ during }) => endOf(during) > instant);
      const paint = { from: instant, until: null, afterwards: change.afterwards as Answer };
      const painted = isOff ? { plan, cuts: [] } : paintTakeOff(plan, paint, siteAddresses, nextId);
      cuts.push(...painted.cuts.map((cut) => ({ ...cut, pageId })));
      next.set(pageId, painted.plan);
      return;
    }
    if (change.act === 'shift' || change.act === 'afterwards') {
      const changed =
        change.act === 'shift'
          ? shiftChange(change, plan, instant, zone, fault, nextId)
          : afterwardsChange(change, plan, instant, siteAddresses, plans, fault, nextId);
      if (changed && faults.length === count) next.set(pageId, changed);
      return;
    }
    if (change.act === 'move') {
      const moved = moveChange(change, plan, start, siteAddresses, plans, fault, nextId);
      if (moved && faults.length === count) next.set(pageId, moved);
      return;
    }
    const until = change.until === null ? null : instantOf(change.until, instant);
    if (until !== null && until <= start) return fault('until', 'It must end after it starts.');
    if (!addressAt(plan, start, siteAddresses))
      return fault('pageId', 'The page has no address then: its site is on no host.');
    checkAnswer(change.afterwards, 'afterwards', pageId, plans, fault);
    if (change.act === 'release' && change.afterwards === null && until !== null && !canGoBackToPlan(plan, until))
      fault('afterwards', 'There is no plan to go back to: the page would not be live then. Choose what visitors get.');
    if (faults.length > count) return;
    const painted =
      change.act === 'release'
        ? paintRelease(
            plan,
            { revisionId: revisionOf(pageId), from: start, until, afterwards: change.afterwards as Answer | null },
            siteAddresses,
            nextId,
          )
        : paintTakeOff(plan, { from: start, until, afterwards: change.afterwards as Answer }, siteAddresses, nextId);
    cuts.push(...painted.cuts.map((cut) => ({ ...cut, pageId })));
    if (change.act === 'release' && !change.cutsLater && painted.cuts.some(({ isLater }) => isLater))
      fault('cutsLater', 'This cuts periods that are planned for later. Choose an earlier end, or say that they go.');
    next.set(pageId, painted.plan);
  });
  return { plans: next, cuts, starts, faults };
}

/** When a change begins: shifts and afterwards are decided now, whatever they change later. */
function startOf(change: ReleaseChange, now: Instant): Instant {
  if (change.act === 'move') return instantOf(change.at, now);
  return 'from' in change ? instantOf(change.from, now) : now;
}

type Fault = (field: string, message: string) => void;

function shiftChange(
  { days }: Extract<ReleaseChange, { act: 'shift' }>,
  plan: PagePlan,
  instant: Instant,
  zone: string,
  fault: Fault,
  nextId: IdSource,
): PagePlan | null {
  if (!isAnythingAhead(plan, instant)) return (fault('days', 'Nothing is planned that could be shifted.'), null);
  const shifted = shiftPlan(plan, instant, (at) => daysLater(at, days, zone), nextId);
  if (!shifted) fault('days', 'It would begin or end in the past.');
  return shifted;
}

function afterwardsChange(
  { afterwards, pageId }: Extract<ReleaseChange, { act: 'afterwards' }>,
  plan: PagePlan,
  instant: Instant,
  siteAddresses: readonly SiteAddress[],
  plans: ReadonlyMap<PageId, PagePlan>,
  fault: Fault,
  nextId: IdSource,
): PagePlan | null {
  const end = lastEnd(plan);
  if (end === null) return (fault('afterwards', 'It has no end, so nothing comes after it.'), null);
  if (end === -Infinity) return (fault('afterwards', 'It was never live, so nothing comes after it.'), null);
  checkAnswer(afterwards, 'afterwards', pageId as PageId, plans, fault);
  return setAfterwards(plan, instant, afterwards as Answer, siteAddresses, nextId);
}

/** Out of the bin: the plan from before as far as it is still to come, or off; at another path where one is given. */
function restoreChange(
  { isPlanned, path, pageId }: Extract<ReleaseChange, { act: 'restore' }>,
  before: PagePlan,
  plan: PagePlan,
  instant: Instant,
  siteAddresses: readonly SiteAddress[],
  fault: Fault,
  nextId: IdSource,
): PagePlan | null {
  const back = isPlanned ? putBack(before, plan, instant, siteAddresses, nextId, false) : plan;
  const placement = back.placements.find(({ during }) => contains(during, instant));
  if (path === null || !placement) return back;
  const move = { act: 'move', pageId, at: 'now', siteId: placement.siteId, path, leaves: null } as const;
  return moveChange(move, back, instant, siteAddresses, new Map(), fault, nextId);
}

function moveChange(
  change: Extract<ReleaseChange, { act: 'move' }>,
  plan: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  plans: ReadonlyMap<PageId, PagePlan>,
  fault: Fault,
  nextId: IdSource,
): PagePlan | null {
  const path = checkTypedPath(change.path);
  const siteId = change.siteId as SiteId;
  if (!siteAddresses.some((address) => address.siteId === siteId))
    return (fault('siteId', 'There is no such site here.'), null);
  if (!path.ok) return (fault('path', path.why), null);
  checkAnswer(change.leaves, 'leaves', null, plans, fault);
  const old = plan.placements.find(({ during }) => during.from <= at && at < (during.until ?? Infinity));
  if (!old) return (fault('at', 'The page does not exist yet then.'), null);
  if (old.siteId === siteId && old.path === path.path)
    return (fault('path', 'The page is at that address already.'), null);
  return movePage(plan, { at, siteId, path: path.path, leaves: change.leaves as Answer | null }, siteAddresses, nextId);
}

/** Refuses a redirect to the page itself, or to one that is not of this portfolio. */
function checkAnswer(
  answer: AnswerInput | null,
  field: string,
  self: PageId | null,
  known: ReadonlyMap<PageId, PagePlan>,
  fault: Fault,
): void {
  if (answer?.kind !== 'redirect' || answer.target.kind !== 'page') return;
  const target = answer.target.pageId as PageId;
  if (!known.has(target)) fault(`${field}.target.pageId`, 'There is no such page in this portfolio.');
  else if (target === self)
    fault(`${field}.target.pageId`, 'That is this page itself: the redirect would lead round in a circle.');
}

/** The instant a person chose; validated before, so that a wall-clock time always has one. */
export function instantOf(moment: MomentInput | WallTimeInput, now: Instant): Instant {
  return moment === 'now' ? now : (instantOfWall(moment) ?? now);
}
