import type { ReleaseView } from '@domatium/contracts';
import { previewIds, putBack, type IdSource, type PageId, type PagePlan, type PortfolioId } from '@domatium/core/plan';
import { putBackStock } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { releaseFaultWords, summaryWords } from '@domatium/core/words';
import type { Context } from '../../platform/database/context.js';
import { ConflictError, NotFoundError } from '../../platform/errors.js';
import {
  addressesOf,
  emptyNeighbourhood,
  leadsOf,
  neighbourhoodOf,
  plansOf,
  siteAddressesOf,
  takeIds,
  withPlans,
  type PlanSource,
} from '../plans/index.js';
import * as stock from '../stock/index.js';
import { conflictsOf } from './conflicts.js';
import { writePlan } from './fault-words.js';
import { undoRefusal, type Subject } from './history.js';
import { judgeRedirects } from './judge.js';
import { hostsLedTo, lockAndRead, type Locks } from './locks.js';
import * as lockStore from './lock-store.js';
import * as binStore from './bin-store.js';
import * as store from './store.js';
import { decided, writeRelease } from './write.js';
import { say } from '@domatium/core/words/answers/releases';

/** Puts back what a release changed, from now on (design rule 8). */
export async function undo(
  context: Context,
  portfolioId: PortfolioId,
  releaseId: number,
  key: string,
  leavesRedirect = true,
): Promise<ReleaseView> {
  return decided(context, portfolioId, key, async (trx, locks) => {
    const source = { db: trx, portfolioId, style: context.style };
    const undone = await store.releaseById(trx, portfolioId, releaseId);
    if (!undone) throw new NotFoundError('release');
    const pages = await store.pagesOfReleases(trx, [undone.id]);
    const pageIds = pages.map(({ page_id }) => page_id);
    const things = await store.itemsOfRelease(trx, undone.id);
    const itemIds = things.map(({ item_id }) => item_id);
    await stock.lockItems(trx, portfolioId, itemIds, context.now);
    await lockStore.lockPages(trx, portfolioId, pageIds);
    const [deleted] = await store.deletedAmong(trx, pageIds);
    if (deleted) throw new ConflictError(say.cantBeUndoneHasBeenDeleted(deleted));
    const known = new Set((await stock.itemsById(trx, portfolioId, itemIds)).map(({ id }) => id));
    if (itemIds.some((id) => !known.has(id))) throw new ConflictError(say.cantBeUndoneSomethingItChanged);
    const subjects = [
      ...pageIds.map((id): Subject => ({ kind: 'page', id })),
      ...itemIds.map((id): Subject => ({ kind: 'item', id })),
    ];
    for (const [index, subject] of subjects.entries()) {
      if (index % 25 === 0) await context.step?.((0.5 * index) / subjects.length);
      const refusal = await undoRefusal(trx, portfolioId, subject, undone.id, context.now);
      if (refusal) throw new ConflictError(refusal);
    }
    const plans = pages.flatMap(({ before, after }) => [before, after]);
    const instant = await lockAndRead(source, context, locks, { pageIds, changes: [], plans, items: itemIds });
    const current = await plansOf(trx, portfolioId, pageIds);
    const siteAddresses = await siteAddressesOf(trx, portfolioId);
    const backWith = (nextId: IdSource) =>
      new Map(
        pages.map(({ page_id, before }) => [
          page_id,
          putBack(before, current.get(page_id) as PagePlan, instant, siteAddresses, nextId, leavesRedirect),
        ]),
      );
    let count = 0;
    const trial = previewIds();
    backWith(() => (count++, trial()));
    const next = backWith(await takeIds(trx, count));
    await refuseUndo(source, locks, next, instant);
    const held = await stock.periodsOf(trx, itemIds);
    const items = things.map(({ item_id, before }) => {
      const now = held.get(item_id) ?? [];
      return { item_id, before: now, after: putBackStock(now, before, instant) };
    });
    const zone = await store.zoneOf(trx, portfolioId);
    const write = writePlan(zone, instant);
    const parts = [{ code: 'undid', params: { what: undone.parts ?? undone.summary, at: undone.at } }] as const;
    const summary = summaryWords(parts, write);
    const id = await writeRelease(
      trx,
      context,
      portfolioId,
      { at: instant, act: 'undo', key, undoes: undone.id, summary, parts },
      current,
      next,
      () => [{ act: 'undo', releaseId: undone.id }],
      items,
    );
    const { put, took } = await binStore.binnedBy(trx, undone.id);
    await binStore.closeStays(trx, portfolioId, id, put, instant);
    await binStore.openStays(trx, portfolioId, id, took, instant);
    return { id, at: instant, summary };
  });
}

/** An undo is judged like a release: pages that would lie on each other, and redirects that would lead in a circle. */
async function refuseUndo(
  source: PlanSource,
  locks: Locks,
  next: ReadonlyMap<PageId, PagePlan>,
  instant: Instant,
): Promise<void> {
  const { db, portfolioId } = source;
  const none = await emptyNeighbourhood(source);
  const changed = [...next.keys()];
  const led = [...next.values()].map((plan) => leadsOf(none, plan));
  const before = await neighbourhoodOf(source, [...changed, ...led.flatMap(({ pages }) => pages)], {
    inbound: instant,
    extra: [
      ...led.flatMap(({ places }) => places),
      ...[...next.values()].flatMap((plan) => addressesOf(plan, none.siteAddresses)),
    ],
    known: none,
  });
  const after = withPlans(before, next.values());
  locks.check(hostsLedTo(after, changed));
  const zone = await store.zoneOf(db, portfolioId);
  const conflicts = await conflictsOf(db, portfolioId, after, new Set(changed));
  if (conflicts.length) {
    const words = conflicts.map(({ params }) => releaseFaultWords('address-taken', params, writePlan(zone, instant)));
    throw new ConflictError(say.cantBeUndone(words.join(' ')));
  }
  const names = await store.namesOfPages(db, portfolioId, [...before.plans.keys()]);
  const { findings } = judgeRedirects({ before, after, changed, restored: new Set(changed), names, zone, instant });
  const blocking = findings.filter(({ severity }) => severity === 'blocks');
  if (blocking.length) throw new ConflictError(say.cantBeUndone(blocking.map(({ message }) => message).join(' ')));
}
