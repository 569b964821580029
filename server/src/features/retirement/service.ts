import { addressAt, type PageId, type PortfolioId } from '@domatium/core/plan';
import { evidenceOf, type Evidence } from '@domatium/core/retirement';
import { resolve } from '@domatium/core/routing';
import { contains, parseInstant } from '@domatium/core/time';
import { compareDays } from '@domatium/core/traffic';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { neighbourhoodOf, tableOf } from '../../heart/plans/index.js';
import { referrersOf, zoneOf } from '../../heart/releases/index.js';
import { leadingTo } from '../../heart/stock/index.js';
import { answersBesidesPages, dailyVisits, lastDayVisited } from '../visits/index.js';

const RECENT_DAYS = 30;

/** What is known of a page now, as statements for keeping it or taking it off. */
export async function evidence(
  { database, now, style }: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
): Promise<readonly Evidence[]> {
  return inTransaction(
    database,
    async (db) => {
      const referrers = await referrersOf(db, [pageId], now);
      const around = await neighbourhoodOf({ db, portfolioId, style }, [
        pageId,
        ...referrers.map(({ referrer }) => referrer),
      ]);
      const plan = around.plans.get(pageId);
      const place = plan && addressAt(plan, now, around.siteAddresses);
      if (!plan || !place) throw new NotFoundError();
      const host = around.hosts.get(place.hostId) ?? '';
      const zone = await zoneOf(db, portfolioId);
      const daily = (await dailyVisits(db, portfolioId, [pageId], zone, now, RECENT_DAYS)).get(pageId) ?? [];
      const lastDay = await lastDayVisited(db, portfolioId, pageId);
      const given = resolve(tableOf(around), { host, path: place.path }, now);
      const isLive = (id: PageId) => around.plans.get(id)?.periods.some(({ during }) => contains(during, now)) ?? false;
      const linking = new Set(referrers.map(({ referrer }) => referrer).filter((id) => id !== pageId && isLive(id)));
      const leading = (await leadingTo(db, portfolioId, [pageId], now)).filter(({ during }) => contains(during, now));
      return evidenceOf({
        now,
        periods: plan.periods.map(({ during }) => during),
        recentVisits: compareDays(daily, RECENT_DAYS).current,
        lastVisit: lastDay === null ? null : parseInstant(`${lastDay}T12:00:00Z`),
        linkedFrom: linking.size,
        ledFrom: [...new Set(leading.map(({ name }) => name))],
        askedInVain: await answersBesidesPages(db, portfolioId, { host, path: place.path }, zone, now, RECENT_DAYS),
        gives: given.kind === 'unknown-host' ? 'not-found' : given.kind,
      });
    },
    'repeatable read',
  );
}
