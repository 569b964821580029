import { contains, interval, later, type Instant } from '../time/index.js';
import { groupBy, pageAddressesOf, type ClaimInputs } from './places.js';
import type { PageId } from './ids.js';
import type { AddressKey, AfterAnswer, Answer, LivePeriod, Placement } from './types.js';

/** An answer with the row whose end leaves it; `null` where it is said. */
export interface DerivedAnswer extends AfterAnswer {
  readonly leftBy: Placement | LivePeriod | null;
}

/**
 * What pages leave behind and what is said of their addresses, each with the address it has by the plan (design rules
 * 1, 6 and 7): of a period's end, the address the page has there; of a placement's end the same, where the page is live
 * there till then and goes elsewhere; of a statement, the page's address at its rank. Later moves, shifts and cuts of
 * the plan therefore need no care of their own.
 */
export function answersOf({ placements, periods, statements, siteAddresses }: ClaimInputs): DerivedAnswer[] {
  const addresses = groupBy(pageAddressesOf(placements, siteAddresses), ({ pageId }) => pageId);
  const placeAt = (pageId: PageId | null, at: Instant): AddressKey | null => {
    const found = pageId === null ? null : addresses.get(pageId)?.find(({ during }) => contains(during, at));
    return found ? { hostId: found.hostId, path: found.path } : null;
  };
  const live = groupBy(periods, ({ pageId }) => pageId);
  const found: DerivedAnswer[] = [];
  const leave = (
    kind: 'afterwards' | 'move',
    row: Placement | LivePeriod,
    place: AddressKey | null,
    answer: Answer,
  ) => {
    const { pageId, leaves, during } = row;
    if (!leaves || !place || during.until === null) return;
    const held = interval(during.until, leaves.until ?? Infinity);
    const { order } = leaves;
    const { hostId, path } = place;
    if (held) found.push({ hostId, path, kind, pageId, during: held, answer, rank: during.until, order, leftBy: row });
  };
  for (const period of periods)
    if (period.leaves && period.during.until !== null)
      leave('afterwards', period, placeAt(period.pageId, later(period.during.until, -1)), period.leaves.answer);
  for (const placement of placements) {
    const { pageId, leaves, during } = placement;
    if (!leaves || during.until === null) continue;
    const justBefore = later(during.until, -1);
    if (!live.get(pageId)?.some((period) => contains(period.during, justBefore))) continue;
    const [old, next] = [placeAt(pageId, justBefore), placeAt(pageId, during.until)];
    if (old && next && isSamePlace(old, next)) continue;
    leave('move', placement, old, leaves.answer.kind === 'follow' ? redirectTo(pageId) : leaves.answer);
  }
  for (const { kind, pageId, during, answer, rank, order, place } of statements) {
    const at = place ?? placeAt(pageId, rank);
    if (at) found.push({ hostId: at.hostId, path: at.path, kind, pageId, during, answer, rank, order, leftBy: null });
  }
  return found;
}

/** What a move leaves by default: a redirect to the page by reference. */
export const redirectTo = (pageId: PageId): Answer => ({
  kind: 'redirect',
  target: { kind: 'page', pageId },
  status: 301,
});

export const isSamePlace = (a: AddressKey, b: AddressKey): boolean => a.hostId === b.hostId && a.path === b.path;
