import type { Robots } from '@domatium/core/document';
import { groupBy, type PageId, type Placement, type PortfolioId } from '@domatium/core/plan';
import { heldMetadata, placeOnSite, roleAt } from '@domatium/core/stock';
import { contains, type Instant, type Interval } from '@domatium/core/time';
import { rowsOf, type Db } from '../../platform/database/context.js';
import * as stock from '../stock/index.js';

/** When pages name another one for search engines, as they are on the air and planned. */
export async function namingsOf(db: Db, pageIds: readonly PageId[]): Promise<ReadonlyMap<PageId, Interval[]>> {
  if (!pageIds.length) return new Map();
  const rows = await rowsOf<{ page_id: PageId; from: Instant; until: Instant | null }>(
    db,
    `SELECT p.page_id, p.from_at AS "from", p.until_at AS "until" FROM period p JOIN revision r ON r.id = p.revision_id
    WHERE p.page_id = ANY(?) AND r.document #> '{metadata,canonical}' IS NOT NULL ORDER BY p.from_at`,
    [pageIds],
  );
  return new Map(
    [...groupBy(rows, (row) => row.page_id)].map(([id, own]) => [id, own.map(({ from, until }) => ({ from, until }))]),
  );
}

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
