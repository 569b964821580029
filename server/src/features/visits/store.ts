import type { PageId, PortfolioId } from '@domatium/core/plan';
import { dayOf, startOfDay, type Instant } from '@domatium/core/time';
import { choicesMade, type ChoicesMade } from '@domatium/core/traffic';
import { rowsOf, type Db } from '../../platform/database/context.js';

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

/** The last day (`YYYY-MM-DD`) on which people visited a page, `null` where none is on record. */
export async function lastDayVisited(db: Db, portfolioId: PortfolioId, pageId: PageId): Promise<string | null> {
  const [row] = await rowsOf<{ day: string | null }>(
    db,
    `SELECT max(day)::text AS day FROM visit_day WHERE portfolio_id = ? AND page_id = ? AND outcome = 'page' AND NOT is_bot`,
    [portfolioId, pageId],
  );
  return row?.day ?? null;
}

/** How often people asked for an address in the last `length` days and got something else than a page. */
export async function answersBesidesPages(
  db: Db,
  portfolioId: PortfolioId,
  address: { host: string; path: string },
  zone: string,
  now: Instant,
  length: number,
): Promise<number> {
  const [row] = await rowsOf<{ answers: number }>(
    db,
    `SELECT coalesce(sum(answers), 0)::int AS answers FROM visit_day
    WHERE portfolio_id = ? AND host = ? AND path = ? AND outcome <> 'page' AND NOT is_bot AND day > ?`,
    [portfolioId, address.host, address.path, dayOf(startOfDay(now, zone, -length), zone)],
  );
  return row?.answers ?? 0;
}

/** What visitors chose to allow in the last `length` days, by purpose. */
export async function choices(
  db: Db,
  portfolioId: PortfolioId,
  zone: string,
  now: Instant,
  length: number,
): Promise<ChoicesMade[]> {
  const rows = await rowsOf<{ path: string; count: number }>(
    db,
    `SELECT path, sum(answers)::int AS count FROM visit_day
    WHERE portfolio_id = ? AND outcome = 'choice' AND NOT is_bot AND day > ? GROUP BY path`,
    [portfolioId, dayOf(startOfDay(now, zone, -length), zone)],
  );
  return choicesMade(rows);
}

/** How often several addresses were asked for and gave something else than a page, by host and path with a space between; those never asked for are left out. */
export async function askedBesidesPages(
  db: Db,
  portfolioId: PortfolioId,
  addresses: readonly { host: string; path: string }[],
  zone: string,
  now: Instant,
  length: number,
): Promise<Map<string, number>> {
  if (!addresses.length) return new Map();
  const rows = await rowsOf<{ host: string; path: string; answers: number }>(
    db,
    `SELECT v.host, v.path, sum(v.answers)::int AS answers FROM visit_day v JOIN unnest(?::text[], ?::text[]) AS w (host, path) ON w.host = v.host AND w.path = v.path
    WHERE v.portfolio_id = ? AND v.outcome <> 'page' AND NOT v.is_bot AND v.day > ? GROUP BY v.host, v.path`,
    [
      addresses.map(({ host }) => host),
      addresses.map(({ path }) => path),
      portfolioId,
      dayOf(startOfDay(now, zone, -length), zone),
    ],
  );
  return new Map(rows.map(({ host, path, answers }) => [`${host} ${path}`, answers]));
}

/** Visits of pages in the last `length` days and in as many before, and the last day with one as days since 1970. */
export async function visitSums(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
  zone: string,
  now: Instant,
  length: number,
): Promise<Map<PageId, { visits: number; before: number; last: number }>> {
  const day = (ahead: number) => dayOf(startOfDay(now, zone, ahead), zone);
  const [only, bindings] = pageIds ? ['AND page_id = ANY(?)', [pageIds]] : ['', []];
  const rows = await rowsOf<{ page_id: PageId; visits: number; before: number; last: number }>(
    db,
    // Two readings of an index: the days that are summed, and the last day of each page. Older days are never touched.
    `SELECT p.id AS page_id, coalesce(s.visits, 0)::int AS visits, coalesce(s.before, 0)::int AS before, l.day - '1970-01-01'::date AS last
    FROM page p
    CROSS JOIN LATERAL (SELECT day FROM visit_day v WHERE v.page_id = p.id AND NOT is_bot AND outcome = 'page' ORDER BY day DESC LIMIT 1) l
    LEFT JOIN (
      SELECT page_id, sum(visits) FILTER (WHERE day > ?::date) AS visits, sum(visits) FILTER (WHERE day <= ?::date) AS before
      FROM visit_day WHERE portfolio_id = ? AND day > ?::date AND NOT is_bot AND outcome = 'page' ${only} GROUP BY page_id) s ON s.page_id = p.id
    WHERE p.portfolio_id = ? ${pageIds ? 'AND p.id = ANY(?)' : ''}`,
    [day(-length), day(-length), portfolioId, day(-2 * length), ...bindings, portfolioId, ...bindings],
  );
  return new Map(rows.map(({ page_id, ...sums }) => [page_id, sums]));
}
