import { stretchesOf } from '@domatium/core/metadata';
import type { PortfolioId } from '@domatium/core/plan';
import type { CrawlerLines, RobotsSaid } from '@domatium/core/register';
import type { RootContent } from '@domatium/core/root';
import type { SharedMetadata } from '@domatium/core/stock';
import { stockOf } from '../../heart/stock/index.js';
import type { Db } from '../../platform/database/context.js';

/** What is asked of search engines for the portfolio, its sites and paths, as it was and is planned. */
export async function robotsSaid(db: Db, portfolioId: PortfolioId): Promise<RobotsSaid[]> {
  const stock = await stockOf(db, portfolioId);
  return stock.flatMap(({ kind, key, siteId, periods }) => {
    if (kind !== 'metadata') return [];
    const stretches = periods.flatMap(({ content, during: { from, until } }) => {
      const { robots } = content as SharedMetadata;
      return robots ? stretchesOf(robots, from, until) : [];
    });
    return stretches.length ? [{ key, siteId, stretches }] : [];
  });
}

/** Lines of `robots.txt` that sites have of their own, as they were and are planned. */
export async function crawlerLines(db: Db, portfolioId: PortfolioId): Promise<CrawlerLines[]> {
  const stock = await stockOf(db, portfolioId);
  return stock.flatMap(({ kind, siteId, periods }) => {
    if (kind !== 'root' || siteId === null) return [];
    const stretches = periods.flatMap(({ content, during: { from, until } }) => {
      const { robots } = content as RootContent;
      return robots.trim() ? [{ from, until, text: robots }] : [];
    });
    return stretches.length ? [{ siteId, stretches }] : [];
  });
}
