import { setImmediate } from 'node:timers/promises';
import { documentFindingsOf, type Finding } from '@domatium/core/checks';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import type { Knex } from 'knex';
import { inTransaction, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import * as store from './store.js';

const AT_ONCE = 200;
const YIELDED = 5;

/** Checks drafts that changed since they were checked, until none is left; gives how many. */
export async function checkDrafts(database: Knex): Promise<number> {
  for (let checked = 0; ;) {
    const some = await inTransaction(database, async (trx) => {
      const drafts = await store.uncheckedDrafts(trx, AT_ONCE);
      for (const [portfolioId, group] of groupBy(drafts, ({ portfolio_id }) => portfolio_id)) {
        const findings = new Map<PageId, Finding[]>();
        const tiny = await store.tinyPictures(trx, portfolioId);
        for (const [index, { page_id, document }] of group.entries()) {
          findings.set(page_id, documentFindingsOf(document, tiny));
          // A release that comes meanwhile waits for none of it.
          if (index % YIELDED === 0) await setImmediate();
        }
        await keepFindings(trx, portfolioId, 'draft', findings);
      }
      if (drafts.length) await store.noteChecked(trx, drafts);
      return drafts.length;
    });
    checked += some;
    if (some < AT_ONCE) return checked;
  }
}

/** Keeps what was found in the place of what was known of these pages; who looks at them is told where it is another. */
export async function keepFindings(
  trx: Db,
  portfolioId: PortfolioId,
  source: store.Source,
  findings: ReadonlyMap<PageId, readonly Finding[]>,
): Promise<void> {
  const pageIds = await store.replaceFindings(trx, portfolioId, source, findings);
  if (pageIds.length) await notifyEvent(trx, { portfolioId, kind: 'page', pageIds });
}
