import type { Register } from '@domatium/contracts';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import {
  columnsOf,
  PAGE_ROLES,
  type RegisterEntry,
  type RegisterLists,
  type RegisterSite,
} from '@domatium/core/register';
import { DAY, instantOfWall, later, type Instant } from '@domatium/core/time';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { findingCounts } from '../../heart/checks/index.js';
import { summaryOfRow, writePlan, zoneOf } from '../../heart/releases/index.js';
import { dailyVisits, visitSums } from '../visits/index.js';
import * as store from './store.js';
import { crawlerLines, robotsSaid } from './robots.js';
import { waysOf } from './ways.js';

const SHOWN_DAYS = 30;

/** The whole portfolio over time, or some of its pages, as one consistent reading. */
export async function register(
  { database, now }: Context,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null = null,
): Promise<Register> {
  return inTransaction(
    database,
    async (db) => {
      const lists = await listsOf(db, portfolioId, now);
      const zone = await zoneOf(db, portfolioId);
      const pages = await store.pagesOf(db, portfolioId, pageIds);
      if (!pages.length) return { now, columns: columnsOf(lists, []), ...(await besides(db, portfolioId, now)) };
      const periods = await store.periodsOf(db, portfolioId, pageIds);
      const placements = groupBy(await store.placementsOf(db, portfolioId, pageIds), ({ page_id }) => page_id);
      const labels = groupBy(await store.labelsOfPages(db, portfolioId, pageIds), ({ page_id }) => page_id);
      const stays = groupBy(await store.binStaysOf(db, portfolioId, pageIds), ({ page_id }) => page_id);
      const prepared = groupBy(await store.preparedStretches(db, portfolioId, pageIds), ({ page_id }) => page_id);
      const tasks = new Map((await store.openTasks(db, portfolioId, pageIds)).map((row) => [row.page_id, row]));
      const findings = new Map((await findingCounts(db, portfolioId, pageIds, now)).map((row) => [row.page_id, row]));
      const hidden = await store.hiddenOf(db, portfolioId, pageIds);
      const elsewhere = await store.elsewhereOf(db, portfolioId, pageIds);
      const redirecting = await store.pagesRedirectingAfter(db, portfolioId, pageIds);
      const visits = await visitSums(db, portfolioId, pageIds, zone, now, SHOWN_DAYS);
      const place = placesIn(lists);
      const entries = pages.map((page): RegisterEntry => {
        const task = tasks.get(page.id);
        const found = findings.get(page.id);
        const { visits: current = 0, before = 0, last = 0 } = visits.get(page.id) ?? {};
        return {
          id: page.id,
          name: page.name,
          role: PAGE_ROLES.find((role) => role === page.role) ?? 'ordinary',
          version: page.version,
          placements: (placements.get(page.id) ?? []).map(({ from, until, site_id, path }) => ({
            from,
            until,
            site: place.site(site_id),
            path,
          })),
          campaign: place.campaign(page.campaign_id),
          owner: place.person(page.owner_id),
          changedBy: place.person(page.changed_by),
          changedAt: page.changed_at,
          labels: (labels.get(page.id) ?? []).map(({ name }) => lists.labels.indexOf(name)),
          redirectsAfter: redirecting.has(page.id),
          template: place.template(page.template_id),
          findings: found ? { blocks: found.blocks, worthFixing: found.worthFixing } : null,
          tasks: task ? { open: task.open, due: task.due } : null,
          prepared: (prepared.get(page.id) ?? []).map((stretch) => ({
            from: stretch.from === 'now' ? null : instantOfWall(stretch.from),
            until: stretch.until && instantOfWall(stretch.until),
          })),
          binned: (stays.get(page.id) ?? []).map(({ from, until }) => ({ from, until })),
          periods: periods.get(page.id) ?? [],
          hidden: hidden.get(page.id) ?? [],
          elsewhere: elsewhere.get(page.id) ?? [],
          visits: current,
          visitsBefore: before,
          lastVisit: last,
        };
      });
      return {
        now,
        columns: columnsOf(
          lists,
          entries.filter((entry) => entry.placements.length),
        ),
        ...(await besides(db, portfolioId, now)),
      };
    },
    'repeatable read',
  );
}

/** What stands beside the pages. */
const besides = async (db: Db, portfolioId: PortfolioId, now: Instant) => {
  const write = writePlan(await zoneOf(db, portfolioId), now);
  const waiting = await store.waitingReleases(db, portfolioId);
  return {
    releases: await store.releaseInstants(db, portfolioId, later(now, -365 * DAY)),
    waiting: waiting.map(({ parts, summary, ...rest }) => ({
      ...rest,
      summary: summaryOfRow({ parts, summary }, write),
    })),
    unverified: await store.lastDifferences(db, portfolioId),
  };
};

async function listsOf(db: Db, portfolioId: PortfolioId, now: Instant): Promise<RegisterLists> {
  const addresses = groupBy(await store.primaryAddressesOf(db, portfolioId), ({ site_id }) => site_id);
  const sites = await store.sitesOf(db, portfolioId);
  return {
    sites: sites.map((site): RegisterSite => ({
      ...site,
      addresses: (addresses.get(site.id) ?? []).map(({ from, until, host, basePath, domain }) => ({
        from,
        until,
        host,
        basePath,
        domain,
      })),
    })),
    campaigns: await store.campaignsOf(db, portfolioId),
    people: await store.peopleOf(db, portfolioId),
    labels: await store.labelsOf(db, portfolioId),
    templates: await store.templatesOf(db, portfolioId),
    ways: await waysOf(db, portfolioId, now),
    robots: await robotsSaid(db, portfolioId),
    crawlers: await crawlerLines(db, portfolioId),
  };
}

/** Finds the index of what a row refers to. */
function placesIn({ sites, campaigns, people, templates }: RegisterLists) {
  const index = <Key>(keys: readonly Key[]) => {
    const places = new Map(keys.map((key, at) => [key, at]));
    return (key: Key | null) => (key === null ? -1 : (places.get(key) ?? -1));
  };
  return {
    site: index(sites.map(({ id }) => id)),
    campaign: index(campaigns.map(({ id }) => id)),
    person: index(people.map(({ id }) => id)),
    template: index(templates.map(({ id }) => id)),
  };
}

/** Visits a day of some pages, for the fine lines of the rows in view. */
export async function lines(
  { database, now }: Context,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<[PageId, readonly number[]][]> {
  const zone = await zoneOf(database, portfolioId);
  return [...(await dailyVisits(database, portfolioId, pageIds, zone, now, SHOWN_DAYS))];
}
