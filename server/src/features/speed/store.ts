import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** The artifact that visitors of a page get at an instant, `null` where it is not live. */
export async function liveArtifact(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
): Promise<string | null> {
  const [row] = await rowsOf<{ artifact: string }>(
    db,
    `SELECT artifact FROM route WHERE portfolio_id = ? AND page_id = ? AND answer = 'page'
    AND from_at <= ? AND (until_at IS NULL OR until_at > ?)`,
    [portfolioId, pageId, dateOf(at), dateOf(at)],
  );
  return row?.artifact ?? null;
}

export async function pageExists(db: Db, portfolioId: PortfolioId, pageId: PageId): Promise<boolean> {
  return (await rowsOf(db, 'SELECT 1 FROM page WHERE portfolio_id = ? AND id = ?', [portfolioId, pageId])).length > 0;
}
