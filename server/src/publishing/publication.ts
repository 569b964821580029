import type { AddressStyle } from '@domatium/core/address';
import type { PageId, PagePlan, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { durations, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { pagesOfReleases } from '../releases/store.js';
import type { PageFiles } from './files.js';
import * as store from './store.js';

const took = durations('domatium_publish_seconds', 'Publications, from the lock of the portfolio to the commit.');

export interface Publisher {
  readonly database: Knex;
  readonly blobs: BlobStore;
  readonly style: AddressStyle;
  readonly files: PageFiles;
  readonly clock: () => Instant;
}

/** One publication: what is read is one moment of the database, what is written is one transaction after it. */
export interface Publication {
  readonly publisher: Publisher;
  readonly portfolioId: PortfolioId;
  /** Reads the plan as it was at one moment, whatever is decided meanwhile. */
  readonly reader: Knex.Transaction;
  readonly trx: Knex.Transaction;
  /** Decided, but not ready for visitors at that moment. */
  readonly open: readonly store.OpenRelease[];
}

/**
 * Runs a publication of a portfolio, one at a time: the later one sees what the earlier wrote. The moment that is read
 * begins once the lock is held.
 */
export function publication<T>(
  publisher: Publisher,
  portfolioId: PortfolioId,
  work: (publication: Publication) => Promise<T>,
): Promise<T> {
  const { database } = publisher;
  const ended = took.startTimer();
  return database
    .transaction(async (trx) => {
      await trx.raw('SELECT pg_advisory_xact_lock(?, ?)', [store.PUBLISH_LOCK, portfolioId]);
      return database.transaction(
        async (reader) => {
          const open = await store.openReleases(reader, portfolioId);
          return work({ publisher, portfolioId, reader, trx, open });
        },
        { isolationLevel: 'repeatable read', readOnly: true },
      );
    })
    .finally(ended);
}

/**
 * The plans of pages as they were before open releases that are not published now: of each page before the first of
 * them that came after those that are.
 */
export async function openPlans(
  reader: Knex.Transaction,
  open: readonly store.OpenRelease[],
  published: readonly ReleaseId[],
): Promise<Map<PageId, PagePlan>> {
  const plans = new Map<PageId, PagePlan>();
  if (open.every(({ id }) => published.includes(id))) return plans;
  const pages = await pagesOfReleases(
    reader,
    open.map(({ id }) => id),
  );
  const lastOf = new Map<PageId, ReleaseId>();
  for (const { page_id, release_id } of pages) if (published.includes(release_id)) lastOf.set(page_id, release_id);
  for (const { page_id, release_id, before } of pages)
    if (release_id > (lastOf.get(page_id) ?? 0) && !plans.has(page_id)) plans.set(page_id, before);
  return plans;
}
