import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { StockKind } from '@domatium/core/stock';
import type { Instant, Interval } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** Something of the stock leads to a page, for as long as it says so. */
export interface Leading {
  readonly itemId: number;
  readonly kind: StockKind;
  readonly name: string;
  readonly target: PageId;
  readonly during: Interval;
}

/** Menus, legal pages, headers, footers, bands and pieces that lead to any of these pages at or after an instant. */
export async function leadingTo(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  from: Instant,
): Promise<Leading[]> {
  if (!pageIds.length) return [];
  const rows = await rowsOf<Omit<Leading, 'during'> & { from_at: Instant; until_at: Instant | null }>(
    db,
    `SELECT DISTINCT i.id AS "itemId", i.kind, i.name, t.id AS target, q.from_at, q.until_at
    FROM stock_item i JOIN stock_period q ON q.item_id = i.id JOIN stock_revision r ON r.id = q.revision_id
    CROSS JOIN LATERAL jsonb_path_query(r.content, 'strict $.**.pageId') AS v CROSS JOIN LATERAL (SELECT (v #>> '{}')::int AS id) t
    WHERE i.portfolio_id = ? AND i.kind IN ('menu', 'legal', 'header', 'footer', 'band', 'piece') AND i.removed_at IS NULL
    AND (q.until_at IS NULL OR q.until_at > ?) AND t.id = ANY(?) ORDER BY q.from_at, i.name`,
    [portfolioId, dateOf(from), [...pageIds]],
  );
  return rows.map(({ from_at, until_at, ...row }) => ({ ...row, during: { from: from_at, until: until_at } }));
}
