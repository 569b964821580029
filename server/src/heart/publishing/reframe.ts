import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf } from '../../platform/database/context.js';
import type { Work } from '../../platform/work/index.js';
import { NO_SITES } from './frames.js';
import type { Publisher } from './publication.js';
import { publishPlans } from './service.js';

const AT_ONCE = 500;

/** Portfolios that were published before pages lay apart from their frames are published once more, page by page. */
export function reframeWork(publisher: Publisher): Work {
  const { database, clock } = publisher;
  return {
    name: 'frames',
    every: 60_000,
    pauses: [1_000, 60_000],
    pending: async () =>
      (await rowsOf<{ id: PortfolioId }>(database, 'SELECT id FROM portfolio WHERE framed_at IS NULL ORDER BY id')).map(
        ({ id }) => String(id),
      ),
    run: async (key) => {
      const portfolioId = Number(key) as PortfolioId;
      const pages = await rowsOf<{ page_id: PageId }>(
        database,
        `SELECT DISTINCT page_id FROM route WHERE portfolio_id = ? AND layer = 'page' AND (until_at IS NULL OR until_at > ?) ORDER BY page_id`,
        [portfolioId, dateOf(clock())],
      );
      for (let at = 0; at < pages.length; at += AT_ONCE)
        await publishPlans(
          publisher,
          portfolioId,
          pages.slice(at, at + AT_ONCE).map(({ page_id }) => page_id),
          at === 0 ? 'all' : NO_SITES,
        );
      await database('portfolio')
        .where({ id: portfolioId })
        .update({ framed_at: dateOf(clock()) });
    },
  };
}

/** Pages whose labels or kind changed, where rules are about those, get the frames that are said of them now. */
export function dueFramesWork(publisher: Publisher): Work {
  const { database } = publisher;
  return {
    name: 'frames by labels',
    every: 5_000,
    pauses: [1_000, 60_000],
    pending: async () =>
      (await rowsOf<{ id: PortfolioId }>(database, 'SELECT DISTINCT portfolio_id AS id FROM frame_due')).map(({ id }) =>
        String(id),
      ),
    run: async (key) => {
      const portfolioId = Number(key) as PortfolioId;
      const due = await rowsOf<{ page_id: PageId; due_at: Instant }>(
        database,
        'SELECT page_id, due_at FROM frame_due WHERE portfolio_id = ? ORDER BY page_id LIMIT ?',
        [portfolioId, AT_ONCE],
      );
      await publishPlans(
        publisher,
        portfolioId,
        due.map(({ page_id }) => page_id),
        NO_SITES,
      );
      // One that changed again meanwhile stays due.
      await database.raw(
        'DELETE FROM frame_due d USING unnest(?::bigint[], ?::timestamptz[]) AS t (id, at) WHERE d.page_id = t.id AND d.due_at < t.at',
        [due.map(({ page_id }) => page_id), due.map(({ due_at }) => new Date(due_at + 1))],
      );
    },
  };
}
