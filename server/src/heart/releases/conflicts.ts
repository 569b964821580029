import { readablePath } from '@domatium/core/address';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { groupBy } from '@domatium/core/plan';
import { intersect, type Instant } from '@domatium/core/time';
import type { ReleaseFaultParams } from '@domatium/core/words';
import type { Db } from '../../platform/database/context.js';
import { claimsOfNeighbourhood, type Neighbourhood } from '../plans/index.js';
import { deciderOf, namesOfPages } from './store.js';

export interface AddressConflict {
  readonly pageId: PageId;
  readonly params: ReleaseFaultParams<'address-taken'>;
}

/**
 * Where a changed plan claims an address that another page has for a time that overlaps: who holds it, from
 * when until when, and by whom that was decided.
 */
export async function conflictsOf(
  db: Db,
  portfolioId: PortfolioId,
  planned: Neighbourhood,
  changed: ReadonlySet<PageId>,
): Promise<AddressConflict[]> {
  const claims = claimsOfNeighbourhood(planned).filter((claim) => claim.layer === 'page');
  const found: {
    own: PageId;
    other: PageId;
    sourceId: number;
    address: string;
    from: Instant;
    until: Instant | null;
  }[] = [];
  for (const group of groupBy(claims, ({ hostId, path }) => `${hostId} ${path}`).values())
    group.forEach((a, index) => {
      for (const b of group.slice(index + 1)) {
        if (a.pageId === b.pageId || !intersect(a.during, b.during)) continue;
        const [own, other] = changed.has(a.pageId) ? [a, b] : [b, a];
        const address = `${planned.hosts.get(a.hostId)}${readablePath(a.path)}`;
        if (changed.has(own.pageId))
          found.push({ own: own.pageId, other: other.pageId, sourceId: other.sourceId, address, ...other.during });
      }
    });
  const names = await namesOfPages(
    db,
    portfolioId,
    found.map(({ other }) => other),
  );
  const told: AddressConflict[] = [];
  for (const { own, other, sourceId, address, from, until } of found) {
    const decided = await deciderOf(db, sourceId);
    const params = {
      address,
      page: names.get(other) ?? null,
      pageId: other,
      from,
      until,
      by: decided?.name ?? null,
      at: decided?.at ?? null,
    };
    told.push({ pageId: own, params });
  }
  return told;
}
