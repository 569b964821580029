import type { PageId, PortfolioId } from '@domatium/core/plan';
import { dayOf, startOfDay, type Instant } from '@domatium/core/time';
import { rowsOf, type Db } from '../database/context.js';

/** Visits a day of pages for the last `length` days in a zone, oldest first, today last; pages without any are absent. */
export async function dailyVisits(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
  zone: string,
  now: Instant,
  length: number,
): Promise<Map<PageId, number[]>> {
  const days = Array.from({ length }, (_, index) => dayOf(startOfDay(now, zone, index - length + 1), zone));
  const place = new Map(days.map((day, index) => [day, index]));
  const rows = await rowsOf<{ page_id: PageId; day: string; visits: number }>(
    db,
    `SELECT page_id, day, sum(visits)::int AS visits FROM visit_day
     WHERE portfolio_id = ? AND day >= ? AND NOT is_bot AND outcome = 'page' AND page_id IS NOT NULL ${pageIds ? 'AND page_id = ANY(?)' : ''} GROUP BY page_id, day`,
    [portfolioId, days[0], ...(pageIds ? [pageIds] : [])],
  );
  const daily = new Map<PageId, number[]>();
  for (const { page_id, day, visits } of rows) {
    const counts = daily.get(page_id) ?? new Array<number>(length).fill(0);
    const index = place.get(day);
    if (index !== undefined) counts[index] = visits;
    daily.set(page_id, counts);
  }
  return daily;
}
