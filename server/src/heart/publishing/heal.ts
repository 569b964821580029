import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { rowsOf } from '../../platform/database/context.js';
import type { Publisher } from './publication.js';
import { publishPlans } from './service.js';

/** Makes pages anew that an edge lacks; gives how many there were. What is whole here is only brought out again. */
export async function healLacks(publisher: Publisher): Promise<number> {
  const { database, blobs } = publisher;
  const rows = await rowsOf<{ artifact: string; page_id: PageId; portfolio_id: PortfolioId }>(
    database,
    `SELECT DISTINCT l.artifact, t.page_id, t.portfolio_id FROM edge_lack l JOIN route t ON t.artifact = l.artifact
     WHERE t.until_at IS NULL OR t.until_at > now()`,
  );
  const broken: typeof rows = [];
  for (const row of rows) if (!(await blobs.readPage(row.artifact))) broken.push(row);
  // A damaged page stands in the way of the one that is made anew.
  for (const { artifact } of broken) await blobs.remove('pages', artifact);
  for (const [portfolioId, some] of groupBy(broken, ({ portfolio_id }) => portfolio_id))
    await publishPlans(publisher, portfolioId, [...new Set(some.map(({ page_id }) => page_id))]);
  return broken.length;
}
