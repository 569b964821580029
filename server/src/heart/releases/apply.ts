import type { AnswerInput, MomentInput, ReleaseChange, WallTimeInput } from '@domatium/contracts';
import { checkTypedPath } from '@domatium/core/address';
import {
  addressAt,
  answerKept,
  canGoBackToPlan,
  isAnythingAhead,
  lastEnd,
  movePage,
  paintRelease,
  paintTakeOff,
  periodFrom,
  putBack,
  retimePeriod,
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
import { contains, endOf, instantOfWall, LAST_INSTANT, parseInstant, type Instant } from '@domatium/core/time';
import type { ReleaseFaultCode, ReleaseFaultParams } from '@domatium/core/words';
import { shiftedOn, type WallZones } from './zones.js';

export interface AppliedCut extends Cut {
  readonly pageId: PageId;
}

/** Something wrong with a change, at a field of it. */
export interface ReleaseFault {
  readonly path: string;
  readonly code: ReleaseFaultCode;
  readonly params: object;
}

export interface Applied {
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  readonly cuts: readonly AppliedCut[];
  /** When each change begins, in the order of the changes. */
  readonly starts: readonly Instant[];
  readonly faults: readonly ReleaseFault[];
}

/** What is known where changes are applied. */
export interface Ground {
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  readonly siteAddresses: readonly SiteAddress[];
  readonly zone: string;
  /** On whose clock moments of pages were chosen, where pages are shifted. */
  readonly zones: ReadonlyMap<PageId, WallZones>;
  /** Pages in the bin, each with the plan it had before; `null` where it has been deleted for ever. */
  readonly binned: ReadonlyMap<PageId, PagePlan | null>;
}

/** Notes what is wrong with a field; the change is left out. */
type Fault = <Code extends ReleaseFaultCode>(
  field: string,
  code: Code,
  ...params: ReleaseFaultParams<Code> extends Record<string, never> ? [] : [ReleaseFaultParams<Code>]
) => null;
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
  const faults: ReleaseFault[] = [];
  const starts: Instant[] = [];
  const met = new Set<PageId>();
  changes.forEach((change, index) => {
    const fault: Fault = (field, code, ...[params = {}]) => {
      faults.push({ path: `changes[${index}].${field}`, code, params: params as object });
      return null;
    };
    const pageId = change.pageId as PageId;
    const plan = ground.plans.get(pageId);
    const start = startOf(change, instant);
    starts.push(start);
    if (met.has(pageId)) return void fault('pageId', 'page-twice');
    met.add(pageId);
    if (!plan) return void fault('pageId', 'page-elsewhere');
    if (start < instant) return void fault(change.act === 'move' ? 'at' : 'from', 'in-the-past');
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
  // What it may begin with is judged by the period it is about.
  if (change.act === 'retime') return now;
  return 'from' in change ? instantOf(change.from, now) : now;
}

function changedPlan(change: ReleaseChange, work: Work): PagePlan | null {
  const { ground, plan, fault } = work;
  const inBin = ground.binned.get(plan.pageId);
  if (inBin === null) return fault('pageId', 'deleted-for-ever');
  if (change.act === 'restore') return inBin ? restored(change, inBin, work) : fault('pageId', 'not-in-the-bin');
  if (inBin) return fault('pageId', 'in-the-bin');
  return (APPLY[change.act] as (change: ReleaseChange, work: Work) => PagePlan | null)(change, work);
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
  if (until !== null && until <= start) return fault('until', 'ends-before-it-starts');
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
    if (last && (last.until === null || from < last.until)) return fault(field('from'), 'starts-before-the-last-ends');
    if (until !== null && until <= from) return fault(field('until'), 'ends-before-it-starts');
    if (!hasAddress(plan, from, ground, fault)) return null;
    checkAnswer(afterwards, field('afterwards'), plan.pageId, ground.plans, fault);
    if (afterwards === null && until !== null && !canGoBackToPlan(plan, until))
      return fault(field('afterwards'), 'no-plan-to-go-back-to');
    const paint = { revisionId: revisionOf(plan.pageId), from, until, afterwards: afterwards as Answer | null };
    const painted = paintRelease(plan, paint, nextId);
    cut(painted.cuts);
    if (!change.cutsLater && painted.cuts.some(({ isLater }) => isLater)) fault('cutsLater', 'cuts-later-periods');
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
  fault('pageId', 'without-address');
  return false;
}

function shifted({ days }: Of<'shift'>, { ground, plan, instant, nextId, fault }: Work): PagePlan | null {
  const { zone } = ground;
  const later = (at: Instant) => shiftedOn(ground.zones.get(plan.pageId), zone, at, days);
  if (!isAnythingAhead(plan, instant)) return fault('days', 'nothing-to-shift');
  const done = shiftPlan(plan, instant, later, nextId);
  if (!('kind' in done)) {
    const isTooFar = done.periods.some(({ during }) => Math.max(during.from, during.until ?? 0) > LAST_INSTANT);
    if (!isTooFar) return done;
    return fault('days', 'shifted-too-far');
  }
  if (done.kind === 'past') return fault('days', 'shifted-into-the-past');
  // Only where clocks go forward: what falls into the hour they skip comes after it, and so after what came next.
  return fault('days', 'shifted-over-a-skipped-hour', {
    at: done.earlier,
    became: later(done.earlier),
    next: later(done.later),
  });
}

function withAfterwards({ afterwards }: Of<'afterwards'>, work: Work): PagePlan | null {
  const { ground, plan, instant, nextId, fault } = work;
  const end = lastEnd(plan);
  if (end === null) return fault('afterwards', 'without-end');
  if (end === -Infinity) return fault('afterwards', 'never-live');
  checkAnswer(afterwards, 'afterwards', plan.pageId, ground.plans, fault);
  return setAfterwards(plan, instant, afterwards as Answer, ground.siteAddresses, nextId);
}

/** Other times for one period: of one that runs only its end. */
function retimed(change: Of<'retime'>, work: Work): PagePlan | null {
  const { ground, plan, instant, nextId, fault, cut } = work;
  const start = parseInstant(change.start);
  const period = start === null ? null : periodFrom(plan, start);
  if (!period) return fault('start', 'no-such-period');
  const { during } = period;
  if (endOf(during) <= instant) return fault('start', 'period-is-over');
  const from = change.from === null ? during.from : instantOf(change.from, instant);
  if (from !== during.from && during.from <= instant) return fault('from', 'start-is-over');
  if (from !== during.from && from < instant) return fault('from', 'in-the-past');
  const until = change.until === null ? null : instantOf(change.until, instant);
  if (until !== null && until <= Math.max(from, instant)) return fault('until', 'ends-before-it-starts');
  if (!hasAddress(plan, Math.max(from, instant) as Instant, ground, fault)) return null;
  checkAnswer(change.afterwards, 'afterwards', plan.pageId, ground.plans, fault);
  const retiming = { from, until, afterwards: change.afterwards as Answer | null };
  const isFollowed = plan.periods.some((one) => one !== period && one.during.from === until);
  if (until !== null && !isFollowed && !answerKept(plan, period, retiming))
    return fault('afterwards', 'nothing-after-it');
  const painted = retimePeriod(plan, period, retiming, nextId);
  cut(painted.cuts);
  if (!change.cutsLater && painted.cuts.some(({ isLater }) => isLater)) fault('cutsLater', 'cuts-later-periods');
  return painted.plan;
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
  if (!own.length) return fault('siteId', 'site-elsewhere');
  const path = checkTypedPath(
    change.path,
    own.map(({ basePath }) => basePath),
  );
  if (!path.ok) return fault('path', 'no-path', { why: path.why });
  checkAnswer(change.leaves, 'leaves', null, ground.plans, fault);
  const old = plan.placements.find(({ during }) => contains(during, start));
  if (!old) return fault('at', 'not-there-then');
  if (old.siteId === siteId && old.path === path.path) return fault('path', 'there-already');
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
  if (!known.has(target)) fault(`${field}.target.pageId`, 'target-elsewhere');
  else if (target === self) fault(`${field}.target.pageId`, 'target-itself');
}

/** What each act makes of a plan; a page in the bin takes none of them. */
const APPLY: {
  readonly [Act in Exclude<ReleaseChange['act'], 'restore'>]: (change: Of<Act>, work: Work) => PagePlan | null;
} = {
  release: released,
  'take-off': takenOff,
  move: moved,
  shift: shifted,
  afterwards: withAfterwards,
  retime: retimed,
  bin: binned,
};

/** The instant a person chose; validated before, so that a wall-clock time always has one. */
export function instantOf(moment: MomentInput | WallTimeInput, now: Instant): Instant {
  return moment === 'now' ? now : (instantOfWall(moment) ?? now);
}
