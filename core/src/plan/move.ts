import { before, contains, fromOn, later, type Instant } from '../time/index.js';
import { addressAt } from './paint.js';
import type { IdSource, SiteId } from './ids.js';
import type { AfterAnswer, Answer, PagePlan, Placement, SiteAddress } from './types.js';

export interface Move {
  readonly at: Instant;
  readonly siteId: SiteId;
  readonly path: string;
  /** What the old address gives where the page is live there; `null` for the default, a redirect to the page. */
  readonly leaves: Answer | null;
}

/**
 * The plan with the page at another site or path from an instant on (design rule 7). A planned later move stays. The
 * afterwards of periods that are still to end follow the page; those of past periods stay where they were.
 */
export function movePage(
  plan: PagePlan,
  move: Move,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): PagePlan {
  const current = plan.placements.find(({ during }) => contains(during, move.at));
  if (!current) throw new RangeError('The page has no place at that instant');
  const placements = plan.placements.flatMap((placement): Placement[] => {
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

function follow(answer: AfterAnswer, moved: PagePlan, at: Instant, siteAddresses: readonly SiteAddress[]): AfterAnswer {
  if (answer.kind !== 'afterwards' || answer.during.from <= at) return answer;
  const place = addressAt(moved, later(answer.during.from, -1), siteAddresses);
  return place ? { ...answer, hostId: place.hostId, path: place.path } : answer;
}

function leftBehind(
  plan: PagePlan,
  moved: PagePlan,
  move: Move,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): AfterAnswer | null {
  const justBefore = later(move.at, -1);
  if (!plan.periods.some(({ during }) => contains(during, justBefore))) return null;
  const old = addressAt(plan, justBefore, siteAddresses);
  const place = addressAt(moved, move.at, siteAddresses);
  if (!old || (place?.hostId === old.hostId && place.path === old.path)) return null;
  return answerLeft(plan, old, move.at, move.leaves, nextId);
}

/** The answer an address keeps for a page that left it: what was chosen, or a redirect to the page by reference. */
export function answerLeft(
  plan: PagePlan,
  old: { readonly hostId: AfterAnswer['hostId']; readonly path: string },
  at: Instant,
  chosen: Answer | null,
  nextId: IdSource,
): AfterAnswer {
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
