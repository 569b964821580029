import type { Changes, ReleaseBody, ReleaseChange, ReleaseView } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import { addressAt, groupBy, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { summaryWords } from '@domatium/core/words';
import type { Knex } from 'knex';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { ConflictError, InvalidError, StaleError } from '../../platform/errors.js';
import { takeIds } from '../plans/index.js';
import { applyChanges, instantOf } from './apply.js';
import { keepZones } from './zones.js';
import { basisOf } from './basis.js';
import { judge, type Judged } from './judge.js';
import { hostsLedTo, lockAndRead } from './locks.js';
import * as lockStore from './lock-store.js';
import * as revisionStore from './revision-store.js';
import * as binStore from './bin-store.js';
import * as store from './store.js';
import { applyStock, freezeStock } from './stock.js';
import { writePlan } from './fault-words.js';
import { partOf, partOfStock, partsOfAll, type Moved } from './summary.js';
import { decided, viewOf, writeRelease } from './write.js';
import { say } from '@domatium/core/words/answers/releases';

/**
 * Decides a release in one transaction, or refuses it whole. Changes that begin *now* begin at the instant that is
 * read after their hosts are locked (design rule 5). The same idempotency key gives the same release.
 */
export async function release(
  context: Context,
  portfolioId: PortfolioId,
  body: ReleaseBody,
  /** Belongs to it: written in the same transaction. */
  and: (trx: Knex.Transaction, view: ReleaseView) => Promise<void> = () => Promise.resolve(),
  /** Goes before it in the same transaction, and gives its changes. */
  first: (trx: Knex.Transaction) => Promise<Changes> = () => Promise.resolve(body),
  /** How many people have approved it, asked once nobody can change what it puts on the air any more. */
  approvals: (trx: Knex.Transaction) => Promise<number> = () => Promise.resolve(0),
): Promise<ReleaseView> {
  return decided(context, portfolioId, body.idempotencyKey, async (trx, locks) => {
    const wanted = await first(trx);
    const { changes, stock = [] } = wanted;
    const items = [...new Set(stock.map(({ itemId }) => itemId))];
    const source = { db: trx, portfolioId, style: context.style };
    const pageIds = [...new Set(changes.map(({ pageId }) => pageId as PageId))];
    const binned = [...(await binStore.binnedPlans(trx, portfolioId, pageIds)).values()].filter(
      (plan) => plan !== null,
    );
    const instant = await lockAndRead(source, context, locks, { pageIds, changes, plans: binned, items });
    await revisionStore.holdDrafts(trx, pageIds);
    // Judged first with what the drafts would become; a draft is frozen only where the release goes through.
    const judged = await judge(source, wanted, instant, {
      approvals: await approvals(trx),
      ...(context.step ? { step: (share) => context.step?.(0.05 + 0.4 * share) ?? Promise.resolve() } : {}),
    });
    locks.check(hostsLedTo(judged.after, pageIds));
    refuseUnseen(wanted, judged);
    const basis = basisOf(wanted, judged);
    if (body.basis !== undefined && body.basis !== basis)
      throw new StaleError(say.whatThisChangesHasChanged, { basis });
    if (judged.faults.length)
      throw judged.applied.faults.length || judged.appliedStock.faults.length
        ? new InvalidError(judged.faults)
        : new ConflictError(judged.faults.map(({ message }) => message).join(' '), judged.faults);
    const blocking = judged.findings.filter(({ severity }) => severity === 'blocks');
    if (blocking.length) throw new InvalidError(blocking.map(({ message }) => ({ path: 'findings', message })));
    await context.step?.(0.5);
    const released = new Set(changes.flatMap(({ act, pageId }) => (act === 'release' ? [pageId as PageId] : [])));
    const drafts = [...judged.drafts.values()].filter(({ page_id }) => released.has(page_id));
    const revisions = await revisionStore.freezeDrafts(trx, portfolioId, drafts, instant, context.account);
    await context.step?.(0.6);
    const ids = await takeIds(trx, judged.idCount);
    const applied = applyChanges(changes, judged.ground, instant, (id) => revisions.get(id) as RevisionId, ids);
    const numbers = await revisionStore.revisionNumbers(trx, [...revisions.values()]);
    const frozen = await freezeStock(trx, portfolioId, stock, judged.things, { at: instant, by: context.account });
    const { after } = applyStock(stock, judged.things, instant, (id) => frozen.get(id)?.id ?? 0);
    const things = [...after].map(([id, periods]) => ({
      item_id: id,
      before: judged.things.before.get(id) ?? [],
      after: periods,
    }));
    const parts = [
      ...partsOfAll(changes, (change, isMany) =>
        partOf(
          change,
          instant,
          isMany ? null : (numbers.get(revisions.get(change.pageId as PageId) as RevisionId) ?? 0),
          isMany ? {} : movedBy(change, instant, judged),
        ),
      ),
      ...stock.map((change) => {
        const name = judged.things.items.get(change.itemId)?.name ?? '';
        return partOfStock(change, name, instant, frozen.get(change.itemId)?.number ?? 0);
      }),
    ];
    const summary = summaryWords(parts, writePlan(judged.zone, instant));
    const acts = [...new Set([...changes.map(({ act }) => act), ...(things.length ? ['stock'] : [])])];
    const changesOf = groupBy(changes, ({ pageId }) => pageId);
    const written = await writeRelease(
      trx,
      context,
      portfolioId,
      {
        at: instant,
        act: acts.length === 1 ? (acts[0] as string) : 'several',
        key: body.idempotencyKey,
        undoes: null,
        summary,
        parts,
      },
      judged.before.plans,
      applied.plans,
      (id) => changesOf.get(id as number) ?? [],
      things,
    );
    await keepZones(trx, portfolioId, judged.zone, changes, judged.before.plans);
    const pagesThat = (act: ReleaseChange['act']) =>
      changes.flatMap((change) => (change.act === act ? [change.pageId as PageId] : []));
    await binStore.openStays(trx, portfolioId, written, pagesThat('bin'), instant);
    await binStore.closeStays(trx, portfolioId, written, pagesThat('restore'), instant);
    const view = { id: written, at: instant, summary };
    await and(trx, view);
    return view;
  });
}

/** What was decided under a key, once that is certain: a press under way is waited for. */
export function releaseOfKey(
  { database }: Context,
  portfolioId: PortfolioId,
  key: string,
): Promise<{ readonly release: ReleaseView | null }> {
  return inTransaction(database, async (trx) => {
    await lockStore.lockKey(trx, portfolioId, key);
    const known = await store.releaseByKey(trx, portfolioId, key);
    return { release: known && (await viewOf(trx, portfolioId, known)) };
  });
}

/** A draft that somebody changed after the person looked at it is not released unseen. */
function refuseUnseen({ changes, stock = [] }: Changes, { drafts, things }: Judged): void {
  const seen = [
    ...changes.flatMap((change) =>
      change.act === 'release' ? [{ ...change, version: drafts.get(change.pageId as PageId)?.version }] : [],
    ),
    ...stock.flatMap((change) =>
      change.act === 'put' ? [{ ...change, version: things.items.get(change.itemId)?.draft_version }] : [],
    ),
  ];
  for (const { draftVersion, version } of seen)
    if (draftVersion !== undefined && draftVersion !== version)
      throw new StaleError(say.theDraftHasBeenChangedSince, {
        draftVersion: version,
      });
}

/** From where to where a change moves its page. */
function movedBy(change: ReleaseChange, now: Instant, { before, after }: Judged): Moved {
  if (change.act !== 'move') return {};
  const at = instantOf(change.at, now);
  const address = ({ plans, siteAddresses, hosts }: Judged['before'], when: Instant) => {
    const plan = plans.get(change.pageId as PageId);
    const place = plan && addressAt(plan, when, siteAddresses);
    return place ? `${hosts.get(place.hostId) ?? ''}${readablePath(place.path)}` : undefined;
  };
  const [from, to] = [address(before, at), address(after, at)];
  return { ...(from === undefined ? {} : { from }), ...(to === undefined ? {} : { to }) };
}
