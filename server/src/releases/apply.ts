import type { AnswerInput, MomentInput, ReleaseChange, WallTimeInput } from '@domatium/contracts';
import { checkTypedPath } from '@domatium/core/address';
import {
  addressAt,
  canGoBackToPlan,
  movePage,
  paintRelease,
  paintTakeOff,
  type Answer,
  type Cut,
  type IdSource,
  type PageId,
  type PagePlan,
  type RevisionId,
  type SiteAddress,
  type SiteId,
} from '@domatium/core/plan';
import { instantOfWall, type Instant } from '@domatium/core/time';

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

/**
 * What changes make of plans, decided at `instant`: pure, for the preview and the press alike. Faults name the field
 * they belong to; a change with faults is left out.
 */
export function applyChanges(
  changes: readonly ReleaseChange[],
  plans: ReadonlyMap<PageId, PagePlan>,
  siteAddresses: readonly SiteAddress[],
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
    const start = instantOf(change.act === 'move' ? change.at : change.from, instant);
    starts.push(start);
    if (!plan) return fault('pageId', 'There is no such page here.');
    if (start < instant) return fault(change.act === 'move' ? 'at' : 'from', 'That time is over. Choose a later one.');
    const count = faults.length;
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

function moveChange(
  change: Extract<ReleaseChange, { act: 'move' }>,
  plan: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  plans: ReadonlyMap<PageId, PagePlan>,
  fault: (field: string, message: string) => void,
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
  fault: (field: string, message: string) => void,
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
