import type { Robots } from '@domatium/core/document';
import type { PageId, Placement, PortfolioId } from '@domatium/core/plan';
import { heldMetadata, placeOnSite, roleAt } from '@domatium/core/stock';
import { contains, type Instant } from '@domatium/core/time';
import { rowsOf, type Db } from '../../platform/database/context.js';
import * as stock from '../stock/index.js';

/** What each of these pages is for where it lies at an instant, and what is asked of search engines further up. */
export async function searchSights(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<(pageId: PageId, placements: readonly Placement[], at: Instant) => { role: string; said: Robots | null }> {
  const rows = await rowsOf<{ id: PageId; role: string }>(db, 'SELECT id, role FROM page WHERE id = ANY(?)', [pageIds]);
  const roles = new Map(rows.map(({ id, role }) => [id, role]));
  const items = pageIds.length ? (await stock.stockOf(db, portfolioId)).filter(({ kind }) => kind === 'metadata') : [];
  return (pageId, placements, at) => {
    const placement = placements.find(({ during }) => contains(during, at));
    const role = roleAt(roles.get(pageId) ?? 'ordinary', placement?.path ?? '');
    if (!placement) return { role, said: null };
    const rules = stock.metadataRulesAt(items, at);
    return { role, said: heldMetadata(rules, placeOnSite(placement.siteId, '', placement.path)).robots.value };
  };
}
