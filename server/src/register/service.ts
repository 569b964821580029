import type { Register } from '@domatium/contracts';
import { joinPath } from '@domatium/core/address';
import { groupBy, type PortfolioId } from '@domatium/core/plan';
import { DAY, later } from '@domatium/core/time';
import { inTransaction, type Context } from '../database/context.js';
import { zoneOf } from '../releases/index.js';
import { dailyVisits } from '../visits/index.js';
import * as store from './store.js';

const SHOWN_DAYS = 30;

/** The whole portfolio, over time, as one consistent reading. */
export async function register({ database, now }: Context, portfolioId: PortfolioId): Promise<Register> {
  return inTransaction(
    database,
    async (db) => {
      const zone = await zoneOf(db, portfolioId);
      const sites = await store.sitesAt(db, portfolioId, now);
      const pages = await store.pagesAt(db, portfolioId, now);
      const periods = groupBy(await store.periodsOf(db, portfolioId), ({ page_id }) => page_id);
      const redirecting = await store.pagesRedirectingAfter(db, portfolioId);
      const visits = await dailyVisits(db, portfolioId, null, zone, now, 2 * SHOWN_DAYS);
      const bySite = new Map(sites.map((site) => [site.id, site]));
      return {
        now,
        sites,
        campaigns: await store.campaignsOf(db, portfolioId),
        releases: await store.releaseInstants(db, portfolioId, later(now, -365 * DAY)),
        waiting: await store.waitingReleases(db, portfolioId),
        pages: pages.flatMap((page) => {
          const site = bySite.get(page.site_id);
          if (!site) return [];
          const daily = visits.get(page.id) ?? [];
          return [
            {
              id: page.id,
              name: page.name,
              role: page.role,
              siteId: page.site_id,
              host: site.host,
              path: joinPath(site.basePath, page.path),
              campaignId: page.campaign_id,
              owner: page.owner,
              changedAt: page.changed_at,
              changedBy: page.changed_by,
              version: page.version,
              redirectsAfter: redirecting.has(page.id),
              periods: (periods.get(page.id) ?? []).map(({ from, until, revision }) => ({ from, until, revision })),
              daily: daily.slice(SHOWN_DAYS),
              visitsBefore: daily.slice(0, SHOWN_DAYS).reduce((sum, count) => sum + count, 0),
            },
          ];
        }),
      };
    },
    'repeatable read',
  );
}
