import {
  addressAt,
  isSamePlace,
  type AddressKey,
  type Answer,
  type AnswerKind,
  type LivePeriod,
  type PageId,
  type PagePlan,
  type Placement,
  type PlanRowId,
  type SiteAddress,
  type Statement,
} from '@domatium/core/plan';
import { contains, later, type Instant, type Interval } from '@domatium/core/time';

/** An answer as it was kept before: with the address it had when it was written down. */
export interface FormerAnswer extends AddressKey {
  readonly id: PlanRowId;
  readonly kind: AnswerKind;
  readonly pageId: PageId | null;
  readonly during: Interval;
  readonly answer: Answer;
  readonly rank: Instant;
  readonly order: number;
}

/** A page's plan as it was kept before. */
export interface FormerPlan {
  readonly pageId: PageId;
  readonly placements: readonly Omit<Placement, 'leaves'>[];
  readonly periods: readonly Omit<LivePeriod, 'leaves'>[];
  readonly answers: readonly FormerAnswer[];
}

/**
 * A former plan as one whose answers are derived. What lies before `now` gives what it gave: an end takes its answer
 * only where it is derived just so, any other becomes a statement with its address. Of what comes, ends take the answers
 * of their instants wherever those lay, and planned moves of pages that are live then leave what moves leave.
 */
export function planOfFormer(former: FormerPlan, siteAddresses: readonly SiteAddress[], now: Instant): PagePlan {
  const { pageId, placements } = former;
  const placeAt = (at: Instant) => addressAt({ placements: placements as readonly Placement[] }, at, siteAddresses);
  const isLive = (at: Instant) => former.periods.some(({ during }) => contains(during, at));
  const taken = new Set<FormerAnswer>();
  const take = (kind: AnswerKind, end: Instant, place: AddressKey | null): FormerAnswer | null => {
    const found = former.answers
      .filter((one) => one.kind === kind && one.rank === end && !taken.has(one))
      .filter(({ during }) => during.from === end && during.until === null)
      .filter((one) => end > now || (place !== null && isSamePlace(one, place)))
      .sort((a, b) => Number(isSame(b, place)) - Number(isSame(a, place)) || b.order - a.order)[0];
    if (found) taken.add(found);
    return found ?? null;
  };
  const periods = former.periods.map((period): LivePeriod => {
    const { until } = period.during;
    const found = until === null ? null : take('afterwards', until, placeAt(later(until, -1)));
    return { ...period, leaves: found && { answer: found.answer, order: found.order, until: null } };
  });
  const moved = placements.map((placement): Placement => {
    const { until } = placement.during;
    if (until === null) return { ...placement, leaves: null };
    const justBefore = later(until, -1);
    const [old, next] = [placeAt(justBefore), placeAt(until)];
    const isTrace = isLive(justBefore) && old !== null && !isSame(old, next);
    const found = isTrace || until > now ? take('move', until, isTrace ? old : null) : null;
    if (found)
      return {
        ...placement,
        leaves: { answer: isFollow(found) ? { kind: 'follow' } : found.answer, order: found.order, until: null },
      };
    return {
      ...placement,
      leaves: until > now ? { answer: { kind: 'follow' }, order: placement.id, until: null } : null,
    };
  });
  const statements = former.answers
    .filter((one) => !taken.has(one))
    .map(({ hostId, path, ...said }): Statement => {
      const isDerived = said.kind === 'afterwards' && isSame(placeAt(said.rank), { hostId, path });
      return { ...said, place: isDerived ? null : { hostId, path } };
    });
  return { pageId, placements: moved, periods, statements };
}

const isSame = (a: AddressKey | null, b: AddressKey | null) => a !== null && b !== null && isSamePlace(a, b);
const isFollow = ({ answer, pageId }: FormerAnswer) =>
  answer.kind === 'redirect' &&
  answer.target.kind === 'page' &&
  answer.target.pageId === pageId &&
  answer.status === 301;
