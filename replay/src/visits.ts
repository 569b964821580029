import type { PageId, PortfolioId } from '@domatium/core/plan';
import { randomFrom, seedOf, type DemoPage } from '@domatium/demo';
import { dayOf, startOfDay, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { insertRows } from '@domatium/server';

const DAYS = 730;
/** Monday to Sunday: people look for boats before the weekend. */
const WEEK = [0.9, 0.92, 1, 1.08, 1.25, 1.1, 0.82];

export interface VisitedPage {
  readonly id: PageId;
  readonly page: DemoPage;
  readonly host: string;
  readonly path: string;
}

/** Two years of daily figures, for the days on which a page was on the air. */
export async function insertVisits(
  database: Knex,
  portfolioId: PortfolioId,
  zone: string,
  pages: readonly VisitedPage[],
  now: Instant,
): Promise<number> {
  const days = Array.from({ length: DAYS }, (_, index) => index - DAYS + 1).map((ahead) => ({
    ahead,
    at: startOfDay(now, zone, ahead),
  }));
  const named = days.map(({ ahead, at }) => ({
    ahead,
    day: dayOf(at, zone),
    weekday: (new Date(at).getUTCDay() + 6) % 7,
  }));
  const partOfToday = (now - startOfDay(now, zone)) / 86_400_000;
  const rows = pages.flatMap(({ id, page, host, path }) => {
    const random = randomFrom(seedOf(`visits ${page.key}`));
    return named.flatMap(({ ahead, day, weekday }) => {
      const isLive = page.lives.some(({ from, until }) => from.day <= ahead && (until === null || until.day > ahead));
      const noise = 0.7 + random() * 0.6;
      const spike = page.key === 'storm/Storm desk' && ahead >= -7 && ahead <= -5 ? 6 : 1;
      const share = ahead === 0 ? partOfToday : 1;
      const visits = Math.round(
        page.visits * Math.exp(page.drift * Math.max(ahead, -200)) * (WEEK[weekday] ?? 1) * noise * spike * share,
      );
      if (!isLive)
        return lateRows(id, page, host, path, ahead, noise).map((row) => ({ ...row, portfolio_id: portfolioId, day }));
      return visits
        ? [
            {
              portfolio_id: portfolioId,
              day,
              host,
              path,
              outcome: 'page',
              page_id: id,
              is_bot: false,
              visits,
              answers: Math.round(visits * 1.4),
            },
          ]
        : [];
    });
  });
  await insertRows(database, 'visit_day', rows);
  return rows.length;
}

/** Days after an end on which people still ask for the page, fewer each day. */
const LATE_DAYS = 120;

/** What the address of a page that is over gives those who still ask for it. */
function lateRows(id: PageId, page: DemoPage, host: string, path: string, ahead: number, noise: number) {
  const ended = page.lives.filter(({ until }) => until !== null && until.day <= ahead).at(-1);
  const since = ended?.until ? ahead - ended.until.day : LATE_DAYS;
  const answers = Math.round(page.visits * 0.2 * Math.exp(-since / 40) * noise);
  if (since >= LATE_DAYS || !answers) return [];
  const outcome = ended?.afterwards?.kind ?? 'not-found';
  return [{ host, path, outcome, page_id: id, is_bot: false, visits: 0, answers }];
}
