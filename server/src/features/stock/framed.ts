import type { FramedPages } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Context } from '../../platform/database/context.js';
import { readVariant } from '../../heart/publishing/index.js';

const NAMED = 3;

/** Pages that are live at a moment, by what is said of what stands around them. */
export async function framedPages(
  { database }: Context,
  portfolioId: PortfolioId,
  at: Instant,
): Promise<FramedPages[]> {
  const rows = await rowsOf<{
    site_id: number;
    variant: string;
    pages: number;
    ids: number[];
    names: string[];
  }>(
    database,
    `WITH live AS (
      SELECT DISTINCT r.page_id, l.site_id, coalesce(f.variant, '') AS variant FROM route r
      JOIN placement l ON l.page_id = r.page_id AND l.during @> ?::timestamptz
      LEFT JOIN framed_page f ON f.host_id = r.host_id AND f.page_id = r.page_id AND f.during @> ?::timestamptz
      WHERE r.portfolio_id = ? AND r.layer = 'page' AND r.from_at <= ? AND (r.until_at IS NULL OR r.until_at > ?))
    SELECT v.site_id, v.variant, count(*)::int AS pages, (array_agg(p.id ORDER BY p.name))[1:${NAMED}] AS ids, (array_agg(p.name ORDER BY p.name))[1:${NAMED}] AS names
    FROM live v JOIN page p ON p.id = v.page_id GROUP BY v.site_id, v.variant ORDER BY v.site_id, v.variant`,
    [dateOf(at), dateOf(at), portfolioId, dateOf(at), dateOf(at)],
  );
  return rows.map(({ site_id: siteId, variant, pages, ids, names }) => ({
    ...{ siteId, pages, ...readVariant(variant) },
    some: ids.map((id, n) => ({ pageId: Number(id), name: names[n] ?? '' })),
  }));
}
