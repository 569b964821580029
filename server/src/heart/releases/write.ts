import type { ReleaseView } from '@domatium/contracts';
import {
  afterClaimsOf,
  answersOf,
  inputsOf,
  pageClaimsOf as pageClaims,
  type AddressKey,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type ReleaseId,
} from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { SummaryPart } from '@domatium/core/words';
import type { Knex } from 'knex';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { ConflictError } from '../../platform/errors.js';
import {
  addressesOf,
  claimsAt,
  exactAt,
  pageClaimsOf,
  pagesAt,
  plansOf,
  savePlans,
  saveClaims,
  siteAddressesOf,
} from '../plans/index.js';
import { tellWork } from '../../platform/work/index.js';
import { writePeriods } from '../stock/index.js';
import { summaryOfRow, writePlan } from './fault-words.js';
import { withLocks, type Locks } from './locks.js';
import * as lockStore from './lock-store.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/releases';

export async function decided(
  context: Context,
  portfolioId: PortfolioId,
  key: string,
  work: (trx: Knex.Transaction, locks: Locks) => Promise<ReleaseView>,
): Promise<ReleaseView> {
  try {
    return await withLocks((locks) =>
      inTransaction(context.database, async (trx) => {
        await lockStore.lockKey(trx, portfolioId, key);
        const known = await store.releaseByKey(trx, portfolioId, key);
        return known ? viewOf(trx, portfolioId, known) : work(trx, locks);
      }),
    );
  } catch (error) {
    const { code, constraint } = error as { code?: string; constraint?: string };
    if (code === '23505' && constraint?.includes('idempotency')) {
      const known = await store.releaseByKey(context.database, portfolioId, key);
      if (known) return viewOf(context.database, portfolioId, known);
    }
    // The last guard; locks make it all but impossible to get here.
    if (code === '23P01') throw new ConflictError(say.someoneElseHasJustTakenThat);
    throw error;
  }
}

/** A release as it is told, in words as they are made now. */
export async function viewOf(db: Db, portfolioId: PortfolioId, row: store.ReleaseRow): Promise<ReleaseView> {
  const write = writePlan(await store.zoneOf(db, portfolioId), row.at);
  return { id: row.id, at: row.at, summary: summaryOfRow(row, write) };
}

interface Written {
  readonly at: Instant;
  readonly act: string;
  readonly key: string;
  readonly undoes: ReleaseId | null;
  readonly summary: string;
  readonly parts: readonly SummaryPart[];
}

export async function writeRelease(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  release: Written,
  before: ReadonlyMap<PageId, PagePlan>,
  after: ReadonlyMap<PageId, PagePlan>,
  changeOf: (id: PageId) => unknown,
  items: readonly store.ReleasedItem[] = [],
): Promise<ReleaseId> {
  const id = await store.insertRelease(trx, { portfolioId, accountId: context.account, ...release });
  const pages = [...after].map(([pageId, plan]) => ({
    pageId,
    before: before.get(pageId) as PagePlan,
    after: plan,
    change: changeOf(pageId),
  }));
  for (const { item_id, after } of items) await writePeriods(trx, portfolioId, item_id, after, release.at);
  await savePlans(trx, portfolioId, id, pages);
  await context.step?.(0.75);
  await rederiveClaims(
    trx,
    portfolioId,
    pages.flatMap((page) => [page.before, page.after]),
  );
  await context.step?.(0.9);
  await trx.raw('SET CONSTRAINTS ALL IMMEDIATE');
  await store.insertReleasePages(trx, portfolioId, id, pages);
  await store.insertReleaseItems(trx, portfolioId, id, items);
  const entry = { portfolioId, at: release.at, accountId: context.account, act: release.act, releaseId: id };
  await writeAudit(
    trx,
    ...pages.map(({ pageId, before, after }): AuditEntry => ({
      ...{ ...entry, object: 'page', objectId: pageId, before, after },
    })),
    ...items.map(({ item_id, before, after }): AuditEntry => ({
      ...{ ...entry, object: 'stock', objectId: item_id, before, after },
    })),
  );
  await context.step?.(0.98);
  await tellWork(trx, 'publication');
  await notifyEvent(trx, {
    portfolioId,
    kind: 'released',
    pageIds: pages.map(({ pageId }) => pageId),
    releaseId: id,
    by: context.account,
  });
  return id;
}

/** Derives the claims of these pages, and all answers at every address they touch or touched, and stores the difference. */
export async function rederiveClaims(trx: Db, portfolioId: PortfolioId, touched: readonly PagePlan[]): Promise<void> {
  const siteAddresses = await siteAddressesOf(trx, portfolioId);
  const pageIds = [...new Set(touched.map(({ pageId }) => pageId))];
  const keyOf = ({ hostId, path }: AddressKey) => `${hostId} ${path}`;
  const all = touched.flatMap((plan) => addressesOf(plan, siteAddresses));
  const addresses = [...new Map(all.map(({ hostId, path }) => [keyOf({ hostId, path }), { hostId, path }])).values()];
  const others = await pagesAt(trx, siteAddresses, addresses);
  const around = await plansOf(trx, portfolioId, [...new Set([...pageIds, ...others])]);
  const own = pageIds.flatMap((id) => around.get(id) ?? []);
  const isTouched = new Set(addresses.map(keyOf));
  const exact = await exactAt(trx, portfolioId, addresses);
  const answers = answersOf(inputsOf(around.values(), siteAddresses, exact)).filter((answer) =>
    isTouched.has(keyOf(answer)),
  );
  const derived = [...pageClaims(inputsOf(own, siteAddresses)), ...afterClaimsOf(answers)];
  const stored = [
    ...(await pageClaimsOf(trx, pageIds)),
    ...(await claimsAt(trx, addresses)).filter(({ layer }) => layer === 'after'),
  ];
  await saveClaims(trx, portfolioId, stored, derived);
}
