import type { AddressStyle } from '@domatium/core/address';
import type { PageId, PagePlan, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { durations, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { pagesOfReleases } from '../releases/index.js';
import type { PageFiles } from './files.js';
import { renderAll, type Renders } from './render.js';
import * as store from './store.js';

const took = durations('domatium_publish_seconds', 'Publications, from their first reading to the commit.');

export interface Publisher {
  readonly database: Knex;
  readonly blobs: BlobStore;
  readonly style: AddressStyle;
  readonly files: PageFiles;
  readonly clock: () => Instant;
}

/** What a publication reads: the plan as it was at one moment, whatever is decided meanwhile. */
export interface Publication {
  readonly publisher: Publisher;
  readonly portfolioId: PortfolioId;
  readonly reader: Knex.Transaction;
  /** Decided, but not ready for visitors at that moment. */
  readonly open: readonly store.OpenRelease[];
}

/** What is to be rendered of what was read, and to be written then. */
export interface Prepared<T> {
  readonly renders: Renders;
  /** Makes ready what is no render, with no transaction open. */
  readonly ready: () => Promise<void>;
  /** `artifacts`: by the key of each render. */
  readonly write: (trx: Knex.Transaction, artifacts: ReadonlyMap<string, string>) => Promise<void>;
  readonly result: T;
}

/**
 * Runs a publication of a portfolio (decision 0029): reads one moment of the database, renders with no transaction
 * open, and writes in one transaction, where no other publication of the portfolio was written since the reading; else
 * it begins anew, with what it rendered already made.
 */
export async function publication<T>(
  publisher: Publisher,
  portfolioId: PortfolioId,
  prepare: (publication: Publication) => Promise<Prepared<T> | null>,
): Promise<T | null> {
  const { database } = publisher;
  const ended = took.startTimer();
  try {
    for (;;) {
      const { number, prepared } = await database.transaction(
        async (reader) => {
          const read = await store.publicationNumber(reader, portfolioId);
          const open = await store.openReleases(reader, portfolioId);
          return { number: read, prepared: await prepare({ publisher, portfolioId, reader, open }) };
        },
        { isolationLevel: 'repeatable read', readOnly: true },
      );
      if (!prepared) return null;
      await prepared.ready();
      const artifacts = await renderAll(database, publisher.blobs, prepared.renders);
      const isWritten = await database.transaction(async (trx) => {
        if (!(await store.takePublication(trx, portfolioId, number))) return false;
        await prepared.write(trx, artifacts);
        return true;
      });
      if (isWritten) return prepared.result;
    }
  } finally {
    ended();
  }
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
