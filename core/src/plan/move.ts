import { before, contains, fromOn, type Instant } from '../time/index.js';
import type { IdSource, SiteId } from './ids.js';
import type { Answer, PagePlan, Placement } from './types.js';

export interface Move {
  readonly at: Instant;
  readonly siteId: SiteId;
  readonly path: string;
  /** What the old address gives where the page is live there; `null` for the default, a redirect to the page. */
  readonly leaves: Answer | null;
}

/**
 * The plan with the page at another site or path from an instant on (design rule 7). A planned later move stays. What
 * ends leave follows from where the page lies then, so nothing else changes.
 */
export function movePage(plan: PagePlan, move: Move, nextId: IdSource): PagePlan {
  const current = plan.placements.find(({ during }) => contains(during, move.at));
  if (!current) throw new RangeError('The page has no place at that instant');
  const leaves = { answer: move.leaves ?? ({ kind: 'follow' } as const), order: nextId(), until: null };
  const placements = plan.placements.flatMap((placement): Placement[] => {
    // A move that was planned for the same instant gives way, with what it was to leave.
    if (placement.during.until === move.at) return [{ ...placement, leaves }];
    if (placement !== current) return [placement];
    const kept = before(placement.during, move.at);
    const next = fromOn(placement.during, move.at);
    return [
      ...(kept ? [{ ...placement, during: kept, leaves }] : []),
      ...(next ? [{ ...placement, id: nextId(), siteId: move.siteId, path: move.path, during: next }] : []),
    ];
  });
  return { ...plan, placements: joined(placements, move.at) };
}

/** A page that goes nowhere from `from` on has one placement: one that follows at the same place only makes it longer. */
function joined(placements: readonly Placement[], from: Instant): Placement[] {
  return placements.reduce<Placement[]>((done, next) => {
    const last = done.at(-1);
    const goesOn = last && next.during.from >= from && last.siteId === next.siteId && last.path === next.path;
    if (!goesOn || last.during.until !== next.during.from) return [...done, next];
    const during = { from: last.during.from, until: next.during.until };
    return [...done.slice(0, -1), { ...next, id: last.id, during }];
  }, []);
}
