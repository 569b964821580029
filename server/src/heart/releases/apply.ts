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
import {
  contains,
  daysLater,
  endOf,
  instantOfWall,
  LAST_INSTANT,
  writeInstant,
  type Instant,
} from '@domatium/core/time';

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

type Fault = (field: string, message: string) => void;
type Of<Kind extends ReleaseChange['act']> = Extract<ReleaseChange, { act: Kind }>;

/** What one change works on. */
interface Work {
  readonly ground: Ground;
  readonly plan: PagePlan;
  readonly instant: Instant;
  readonly start: Instant;
  readonly revisionOf: (pageId: PageId) => RevisionId;
  readonly nextId: IdSource;
  readonly fault: Fault;
  readonly cut: (cuts: readonly Cut[]) => void;
}

/**
 * What changes make of plans, decided at `instant`: pure, for the preview and the press alike. A page is changed once in
 * a release. Faults name the field they belong to; a change with faults is left out.
 */
export function applyChanges(
  changes: readonly ReleaseChange[],
  ground: Ground,
  instant: Instant,
  revisionOf: (pageId: PageId) => RevisionId,
  nextId: IdSource,
): Applied {
  const next = new Map<PageId, PagePlan>();
  const cuts: AppliedCut[] = [];
  const faults: { path: string; message: string }[] = [];
  const starts: Instant[] = [];
  const met = new Set<PageId>();
  changes.forEach((change, index) => {
    const fault: Fault = (field, message) => void faults.push({ path: `changes[${index}].${field}`, message });
    const pageId = change.pageId as PageId;
    const plan = ground.plans.get(pageId);
    const start = startOf(change, instant);
    starts.push(start);
    if (met.has(pageId))
      return fault('pageId', 'This release already changes this page; a release changes each page once.');
    met.add(pageId);
    if (!plan) return fault('pageId', 'That page isn’t in this portfolio.');
    if (start < instant)
      return fault(change.act === 'move' ? 'at' : 'from', 'That time is in the past. Choose a later one.');
    const cut = (all: readonly Cut[]) => void cuts.push(...all.map((one) => ({ ...one, pageId })));
    const count = faults.length;
    const changed = changedPlan(change, { ground, plan, instant, start, revisionOf, nextId, fault, cut });
    if (changed && faults.length === count) next.set(pageId, changed);
  });
  return { plans: next, cuts, starts, faults };
}

/** When a change begins: shifts and afterwards are decided now, whatever they change later. */
function startOf(change: ReleaseChange, now: Instant): Instant {
  if (change.act === 'move') return instantOf(change.at, now);
  return 'from' in change ? instantOf(change.from, now) : now;
}

function changedPlan(change: ReleaseChange, work: Work): PagePlan | null {
  const { ground, plan, fault } = work;
  const inBin = ground.binned.get(plan.pageId);
  if (inBin === null) return (fault('pageId', 'It has been deleted for ever.'), null);
  if (change.act === 'restore')
    return inBin ? restored(change, inBin, work) : (fault('pageId', 'It is not in the bin.'), null);
  if (inBin) return (fault('pageId', 'It is in the bin. Restore it first.'), null);
  switch (change.act) {
    case 'bin':
      return binned(change, work);
    case 'shift':
      return shifted(change, work);
    case 'afterwards':
      return withAfterwards(change, work);
    case 'move':
      return moved(change, work);
    case 'take-off':
      return takenOff(change, work);
    case 'release':
      return released(change, work);
  }
}

function binned({ afterwards }: Of<'bin'>, { ground, plan, instant, nextId, fault, cut }: Work): PagePlan {
  checkAnswer(afterwards, 'afterwards', plan.pageId, ground.plans, fault);
  if (!plan.periods.some(({ during }) => endOf(during) > instant)) return plan;
  const painted = paintTakeOff(plan, { from: instant, until: null, afterwards: afterwards as Answer }, nextId);
  cut(painted.cuts);
  return painted.plan;
}

function takenOff(change: Of<'take-off'>, { ground, plan, instant, start, nextId, fault, cut }: Work): PagePlan | null {
  const until = change.until === null ? null : instantOf(change.until, instant);
  if (until !== null && until <= start) return (fault('until', 'It must end after it starts.'), null);
  if (!hasAddress(plan, start, ground, fault)) return null;
  checkAnswer(change.afterwards, 'afterwards', plan.pageId, ground.plans, fault);
  const painted = paintTakeOff(plan, { from: start, until, afterwards: change.afterwards as Answer }, nextId);
  cut(painted.cuts);
  return painted.plan;
}

function released(change: Of<'release'>, work: Work): PagePlan | null {
  const { ground, plan: before, instant, start, revisionOf, nextId, fault, cut } = work;
  const stretches = stretchesOf(change, start, instant);
  let plan = before;
  for (const [index, { from, until, afterwards }] of stretches.entries()) {
    const field = (name: string) => (index ? `further[${index - 1}].${name}` : name);
    const last = stretches[index - 1];
    if (last && (last.until === null || from < last.until))
      return (fault(field('from'), 'It must start at or after the end of the period before it.'), null);
    if (until !== null && until <= from) return (fault(field('until'), 'It must end after it starts.'), null);
    if (!hasAddress(plan, from, ground, fault)) return null;
    checkAnswer(afterwards, field('afterwards'), plan.pageId, ground.plans, fault);
    if (afterwards === null && until !== null && !canGoBackToPlan(plan, until))
      return (
        fault(
          field('afterwards'),
          'There is no plan to go back to: the page would not be live then. Choose what visitors get.',
        ),
        null
      );
    const paint = { revisionId: revisionOf(plan.pageId), from, until, afterwards: afterwards as Answer | null };
    const painted = paintRelease(plan, paint, nextId);
    cut(painted.cuts);
    if (!change.cutsLater && painted.cuts.some(({ isLater }) => isLater))
      fault('cutsLater', 'This cuts periods planned for later. Choose an earlier end, or confirm the cut.');
    plan = painted.plan;
  }
  return plan;
}

/** The periods a release puts on the air, in their order. */
export function stretchesOf(
  change: Of<'release'>,
  start: Instant,
  now: Instant,
): { from: Instant; until: Instant | null; afterwards: AnswerInput | null }[] {
  const all = [
    { ...change, from: start },
    ...(change.further ?? []).map((one) => ({ ...one, from: instantOf(one.from, now) })),
  ];
  return all.map(({ from, until, afterwards }) => ({
    from,
    until: until === null ? null : instantOf(until, now),
    afterwards,
  }));
}

function hasAddress(plan: PagePlan, at: Instant, { siteAddresses }: Ground, fault: Fault): boolean {
  if (addressAt(plan, at, siteAddresses)) return true;
  fault('pageId', 'The page has no address then; its site has no host.');
  return false;
}

function shifted({ days }: Of<'shift'>, { ground, plan, instant, nextId, fault }: Work): PagePlan | null {
  const { zone } = ground;
  if (!isAnythingAhead(plan, instant))
    return (fault('days', 'Nothing is planned, so there is nothing to shift.'), null);
  const done = shiftPlan(plan, instant, (at) => daysLater(at, days, zone), nextId);
  if (!('kind' in done)) {
    const isTooFar = done.periods.some(({ during }) => Math.max(during.from, during.until ?? 0) > LAST_INSTANT);
    if (!isTooFar) return done;
    return (fault('days', 'Nothing can be planned after 31 December 2199. Choose fewer days.'), null);
  }
  if (done.kind === 'past') return (fault('days', 'It would begin or end in the past.'), null);
  // Only where clocks go forward: what falls into the hour they skip comes after it, and so after what came next.
  const write = (at: Instant) => writeInstant(at, zone, instant);
  const became = write(daysLater(done.earlier, days, zone));
  const next = write(daysLater(done.later, days, zone));
  const words = `Clocks skip an hour that day: ${write(done.earlier)} would become ${became}, no longer before ${next}. Choose another number of days.`;
  return (fault('days', words), null);
}

function withAfterwards({ afterwards }: Of<'afterwards'>, work: Work): PagePlan | null {
  const { ground, plan, instant, nextId, fault } = work;
  const end = lastEnd(plan);
  if (end === null) return (fault('afterwards', 'It has no end, so nothing comes after it.'), null);
  if (end === -Infinity) return (fault('afterwards', 'It was never live, so nothing comes after it.'), null);
  checkAnswer(afterwards, 'afterwards', plan.pageId, ground.plans, fault);
  return setAfterwards(plan, instant, afterwards as Answer, ground.siteAddresses, nextId);
}

/** Out of the bin: the plan from before as far as it is still to come, or off; at another path where one is given. */
function restored({ isPlanned, path, pageId }: Of<'restore'>, before: PagePlan, work: Work): PagePlan | null {
  const { ground, plan, instant, nextId } = work;
  const back = isPlanned ? putBack(before, plan, instant, ground.siteAddresses, nextId, false) : plan;
  const placement = back.placements.find(({ during }) => contains(during, instant));
  if (path === null || !placement) return back;
  const move = { act: 'move', pageId, at: 'now', siteId: placement.siteId, path, leaves: null } as const;
  return moved(move, { ...work, plan: back, start: instant });
}

function moved(change: Of<'move'>, { ground, plan, start, nextId, fault }: Work): PagePlan | null {
  const siteId = change.siteId as SiteId;
  const own = ground.siteAddresses.filter((address) => address.siteId === siteId);
  if (!own.length) return (fault('siteId', 'That site isn’t in this portfolio.'), null);
  const path = checkTypedPath(
    change.path,
    own.map(({ basePath }) => basePath),
  );
  if (!path.ok) return (fault('path', path.why), null);
  checkAnswer(change.leaves, 'leaves', null, ground.plans, fault);
  const old = plan.placements.find(({ during }) => contains(during, start));
  if (!old) return (fault('at', 'The page doesn’t exist at that time.'), null);
  if (old.siteId === siteId && old.path === path.path)
    return (fault('path', 'The page is at that address already.'), null);
  return movePage(plan, { at: start, siteId, path: path.path, leaves: change.leaves as Answer | null }, nextId);
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
