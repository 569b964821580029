import type { HostId, PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** The stored page that visitors of a page get at an instant, and where; `null` where it is not live. */
export async function livePage(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
): Promise<{ artifact: string; hostId: HostId; path: string } | null> {
  const [row] = await rowsOf<{ artifact: string; hostId: HostId; path: string }>(
    db,
    `SELECT artifact, host_id AS "hostId", path FROM route WHERE portfolio_id = ? AND page_id = ? AND answer = 'page'
    AND from_at <= ? AND (until_at IS NULL OR until_at > ?)`,
    [portfolioId, pageId, dateOf(at), dateOf(at)],
  );
  return row ?? null;
}

export async function pageExists(db: Db, portfolioId: PortfolioId, pageId: PageId): Promise<boolean> {
  return (await rowsOf(db, 'SELECT 1 FROM page WHERE portfolio_id = ? AND id = ?', [portfolioId, pageId])).length > 0;
}
