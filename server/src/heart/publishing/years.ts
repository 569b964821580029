import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { DAY, later } from '@domatium/core/time';
import { dateOf, rowsOf } from '../../platform/database/context.js';
import type { Publisher } from './publication.js';
import { publishPlans } from './service.js';

/** Pages that say the year are made ready for three turns of it; with fewer than two ahead they are made ready again. */
const LEAST_AHEAD = 2 * 366 * DAY;
const SAYS_YEAR = '[{] *year *[}]';
const AT_ONCE = 200;

/** Makes pages that name the year, themselves or through a piece, ready for the years that come; gives how many. */
export async function readyYears(publisher: Publisher): Promise<number> {
  const horizon = dateOf(later(publisher.clock(), LEAST_AHEAD));
  const rows = await rowsOf<{ portfolio_id: PortfolioId; page_id: PageId }>(
    publisher.database,
    `SELECT DISTINCT q.portfolio_id, q.page_id FROM period q JOIN revision r ON r.id = q.revision_id JOIN page p ON p.id = q.page_id
    WHERE coalesce(q.until_at, 'infinity') > ? AND p.deleted_at IS NULL
    AND (r.document::text ~* ? OR EXISTS (SELECT 1 FROM stock_item i JOIN stock_revision s ON s.item_id = i.id
      WHERE i.portfolio_id = q.portfolio_id AND i.kind = 'piece' AND s.content::text ~* ?
      AND jsonb_path_exists(r.document, 'strict $.blocks[*] \\? (@.type == "piece" && @.fields.piece.id == $id)', jsonb_build_object('id', i.id))))
    AND NOT EXISTS (SELECT 1 FROM route t WHERE t.page_id = q.page_id AND t.layer = 'page' AND t.from_at > ?)`,
    [horizon, SAYS_YEAR, SAYS_YEAR, horizon],
  );
  for (const [portfolioId, pages] of groupBy(rows, ({ portfolio_id }) => portfolio_id))
    for (let at = 0; at < pages.length; at += AT_ONCE)
      await publishPlans(
        publisher,
        portfolioId,
        pages.slice(at, at + AT_ONCE).map(({ page_id }) => page_id),
      );
  return rows.length;
}
