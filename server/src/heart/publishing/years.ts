import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { PART_KINDS } from '@domatium/core/stock';
import { DAY, later } from '@domatium/core/time';
import { dateOf, rowsOf } from '../../platform/database/context.js';
import { NO_SITES } from './frames.js';
import type { Publisher } from './publication.js';
import { pagesUsing, type ItemRow } from '../stock/index.js';
import { publishPlans } from './service.js';

/** Pages that say the year are made ready for three turns of it; with fewer than two ahead they are made ready again. */
const LEAST_AHEAD = 2 * 366 * DAY;
const SAYS_YEAR = '[{] *year *[}]';
const AT_ONCE = 200;

interface Row {
  readonly portfolio_id: PortfolioId;
  readonly page_id: PageId;
}

/** Makes pages that name the year, themselves, through a piece, in the title of a page they list or by what is set for search engines, ready for the years that come; gives how many. */
export async function readyYears(publisher: Publisher): Promise<number> {
  const horizon = dateOf(later(publisher.clock(), LEAST_AHEAD));
  const { database } = publisher;
  const readyUntil = `coalesce(q.until_at, 'infinity') > ? AND p.deleted_at IS NULL
    AND NOT EXISTS (SELECT 1 FROM route t WHERE t.page_id = q.page_id AND t.layer = 'page' AND t.from_at > ?)`;
  const rows = await rowsOf<Row>(
    database,
    `SELECT DISTINCT q.portfolio_id, q.page_id FROM period q JOIN revision r ON r.id = q.revision_id JOIN page p ON p.id = q.page_id
    WHERE ${readyUntil} AND (r.document::text ~* ? OR EXISTS (
      SELECT 1 FROM jsonb_path_query(r.document, 'strict $.blocks[*] \\? (@.type == "pageList").fields.items[*].page.id') t
      JOIN period tq ON tq.page_id = t::int AND tq.during && q.during JOIN revision tr ON tr.id = tq.revision_id
      WHERE tr.document #>> '{metadata,title}' ~* ?))`,
    [horizon, horizon, SAYS_YEAR, SAYS_YEAR],
  );
  const items = await rowsOf<Pick<ItemRow, 'id' | 'kind' | 'key' | 'site_id'> & { portfolio_id: PortfolioId }>(
    database,
    `SELECT DISTINCT i.portfolio_id, i.id, i.kind, i.key, i.site_id FROM stock_item i JOIN stock_revision s ON s.item_id = i.id
    WHERE i.kind IN ('piece', 'metadata') AND s.content::text ~* ?`,
    [SAYS_YEAR],
  );
  for (const { portfolio_id, ...item } of items) {
    const users = await pagesUsing(database, portfolio_id, item, publisher.clock());
    rows.push(
      ...(await rowsOf<Row>(
        database,
        `SELECT DISTINCT q.portfolio_id, q.page_id FROM period q JOIN page p ON p.id = q.page_id WHERE ${readyUntil} AND q.page_id = ANY(?)`,
        [horizon, horizon, users.map(({ page_id }) => page_id)],
      )),
    );
  }
  const frames = await rowsOf<{ portfolio_id: PortfolioId }>(
    database,
    `SELECT DISTINCT i.portfolio_id FROM stock_item i JOIN stock_revision s ON s.item_id = i.id
    WHERE i.kind = ANY(?) AND (s.content::text ~* ? OR jsonb_path_exists(s.content, '$.blocks[*] \\? (@.type == "piece")'))
    AND NOT EXISTS (SELECT FROM frame_line l JOIN frame_stretch f ON f.line_id = l.id WHERE l.portfolio_id = i.portfolio_id AND f.from_at > ?)`,
    [[...PART_KINDS], SAYS_YEAR, horizon],
  );
  for (const { portfolio_id } of frames) await publishPlans(publisher, portfolio_id, []);
  for (const [portfolioId, pages] of groupBy(rows, ({ portfolio_id }) => portfolio_id))
    for (let at = 0; at < pages.length; at += AT_ONCE)
      await publishPlans(
        publisher,
        portfolioId,
        [...new Set(pages.slice(at, at + AT_ONCE).map(({ page_id }) => page_id))],
        NO_SITES,
      );
  return new Set(rows.map(({ page_id }) => page_id)).size;
}
