import type { MomentInput, ReleaseBody, ReleaseChange, ReleaseView } from '@domatium/contracts';
import {
  afterClaimsOf,
  answersOf,
  groupBy,
  inputsOf,
  pageClaimsOf as pageClaims,
  previewIds,
  putBack,
  type AddressKey,
  type IdSource,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type ReleaseId,
  type RevisionId,
} from '@domatium/core/plan';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { ConflictError, InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import {
  addressesOf,
  claimsAt,
  emptyNeighbourhood,
  leadsOf,
  neighbourhoodOf,
  pageClaimsOf,
  pagesAt,
  plansOf,
  savePlans,
  saveClaims,
  siteAddressesOf,
  takeIds,
  withPlans,
  type PlanSource,
} from '../plans/index.js';
import { tellWork } from '../../platform/work/index.js';
import { applyChanges, instantOf } from './apply.js';
import { conflictsOf } from './conflicts.js';
import { judge, judgeRedirects, type Judged } from './judge.js';
import { hostsLedTo, lockAndRead, withLocks, type Locks } from './locks.js';
import * as store from './store.js';

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
  first: (trx: Knex.Transaction) => Promise<readonly ReleaseChange[]> = () => Promise.resolve(body.changes),
  /** How many people have approved it, asked once nobody can change what it puts on the air any more. */
  approvals: (trx: Knex.Transaction) => Promise<number> = () => Promise.resolve(0),
): Promise<ReleaseView> {
  return decided(context, portfolioId, body.idempotencyKey, async (trx, locks) => {
    const changes = await first(trx);
    const source = { db: trx, portfolioId, style: context.style };
    const pageIds = [...new Set(changes.map(({ pageId }) => pageId as PageId))];
    const binned = [...(await store.binnedPlans(trx, portfolioId, pageIds)).values()].filter((plan) => plan !== null);
    const instant = await lockAndRead(source, context, locks, { pageIds, changes, plans: binned });
    await store.holdDrafts(trx, pageIds);
    // Judged first with what the drafts would become; a draft is frozen only where the release goes through.
    const judged = await judge(source, changes, instant, {
      approvals: await approvals(trx),
      ...(context.step ? { step: (share) => context.step?.(0.05 + 0.4 * share) ?? Promise.resolve() } : {}),
    });
    locks.check(hostsLedTo(judged.after, pageIds));
    refuseUnseen(changes, judged);
    if (judged.faults.length)
      throw judged.applied.faults.length
        ? new InvalidError(judged.faults)
        : new ConflictError(judged.faults.map(({ message }) => message).join(' '), judged.faults);
    const blocking = judged.findings.filter(({ severity }) => severity === 'blocks');
    if (blocking.length) throw new InvalidError(blocking.map(({ message }) => ({ path: 'findings', message })));
    await context.step?.(0.5);
    const released = new Set(changes.flatMap(({ act, pageId }) => (act === 'release' ? [pageId as PageId] : [])));
    const drafts = [...judged.drafts.values()].filter(({ page_id }) => released.has(page_id));
    const revisions = await store.freezeDrafts(trx, portfolioId, drafts, instant, context.account);
    await context.step?.(0.6);
    const ids = await takeIds(trx, judged.idCount);
    const applied = applyChanges(changes, judged.ground, instant, (id) => revisions.get(id) as RevisionId, ids);
    const numbers = await store.revisionNumbers(trx, [...revisions.values()]);
    const summary = summaryOfAll(changes, (change, isMany) =>
      summaryOf(
        change,
        judged.zone,
        instant,
        isMany ? null : (numbers.get(revisions.get(change.pageId as PageId) as RevisionId) ?? 0),
      ),
    );
    const acts = [...new Set(changes.map(({ act }) => act))];
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
      },
      judged.before.plans,
      applied.plans,
      (id) => changesOf.get(id as number) ?? [],
    );
    const pagesThat = (act: ReleaseChange['act']) =>
      changes.flatMap((change) => (change.act === act ? [change.pageId as PageId] : []));
    await store.openStays(trx, portfolioId, written, pagesThat('bin'), instant);
    await store.closeStays(trx, portfolioId, written, pagesThat('restore'), instant);
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
    await store.lockKey(trx, portfolioId, key);
    const known = await store.releaseByKey(trx, portfolioId, key);
    return { release: known && { id: known.id, at: known.at, summary: known.summary } };
  });
}

/** A draft that somebody changed after the person looked at it is not released unseen. */
function refuseUnseen(changes: readonly ReleaseChange[], { drafts }: Judged): void {
  for (const change of changes) {
    const version = drafts.get(change.pageId as PageId)?.version;
    if (change.act === 'release' && change.draftVersion !== undefined && change.draftVersion !== version)
      throw new StaleError('The draft has been changed since you looked at it. Look again, then press again.', {
        draftVersion: version,
      });
  }
}

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
    await store.lockPages(trx, portfolioId, pageIds);
    const [deleted] = await store.deletedAmong(trx, pageIds);
    if (deleted) throw new ConflictError(`Can’t be undone: ${deleted} has been deleted for ever since.`);
    for (const [index, pageId] of pageIds.entries()) {
      if (index % 25 === 0) await context.step?.((0.5 * index) / pageIds.length);
      const refusal = await undoRefusal(trx, portfolioId, pageId, undone.id, context.now);
      if (refusal) throw new ConflictError(refusal);
    }
    const plans = pages.flatMap(({ before, after }) => [before, after]);
    const instant = await lockAndRead(source, context, locks, { pageIds, changes: [], plans });
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
    const zone = await store.zoneOf(trx, portfolioId);
    const summary = `Undid “${undone.summary}” of ${writeInstant(undone.at, zone, instant)}`;
    const id = await writeRelease(
      trx,
      context,
      portfolioId,
      { at: instant, act: 'undo', key, undoes: undone.id, summary },
      current,
      next,
      () => [{ act: 'undo', releaseId: undone.id }],
    );
    const { put, took } = await store.binnedBy(trx, undone.id);
    await store.closeStays(trx, portfolioId, id, put, instant);
    await store.openStays(trx, portfolioId, id, took, instant);
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
  const conflicts = await conflictsOf(db, portfolioId, after, new Set(changed), zone, instant);
  if (conflicts.length) throw new ConflictError(`Can’t be undone: ${conflicts.map(({ words }) => words).join(' ')}`);
  const names = await store.namesOfPages(db, portfolioId, [...before.plans.keys()]);
  const { findings } = judgeRedirects({ before, after, changed, restored: new Set(changed), names, zone, instant });
  const blocking = findings.filter(({ severity }) => severity === 'blocks');
  if (blocking.length) throw new ConflictError(`Can’t be undone: ${blocking.map(({ message }) => message).join(' ')}`);
}

/** Why a release can't be undone for a page, or `null`: a later one, not itself undone, changed the same plan. */
export async function undoRefusal(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  releaseId: ReleaseId,
  now: Instant,
): Promise<string | null> {
  const all = await store.releasesOfPage(db, portfolioId, pageId);
  const undos = await store.undosOf(
    db,
    all.map(({ id }) => id),
  );
  const isInForce = (id: ReleaseId): boolean => !undos.some((one) => one.undoes_id === id && isInForce(one.id));
  const own = all.find(({ id }) => id === releaseId);
  if (own && !isInForce(releaseId)) return 'It has been undone already.';
  // A later release and its undo cancel each other; an undo of something earlier is a change like any other.
  const blocking = all.find(
    ({ id, undoes_id }) => id > releaseId && isInForce(id) && !(undoes_id !== null && undoes_id > releaseId),
  );
  if (!blocking) return null;
  const zone = await store.zoneOf(db, portfolioId);
  return `Can’t be undone: “${blocking.summary}” by ${blocking.account_name ?? 'the system'} on ${writeInstant(blocking.at, zone, now)} changed the same page later. Undo that first.`;
}

async function decided(
  context: Context,
  portfolioId: PortfolioId,
  key: string,
  work: (trx: Knex.Transaction, locks: Locks) => Promise<ReleaseView>,
): Promise<ReleaseView> {
  try {
    return await withLocks((locks) =>
      inTransaction(context.database, async (trx) => {
        await store.lockKey(trx, portfolioId, key);
        const known = await store.releaseByKey(trx, portfolioId, key);
        return known ? { id: known.id, at: known.at, summary: known.summary } : work(trx, locks);
      }),
    );
  } catch (error) {
    const { code, constraint } = error as { code?: string; constraint?: string };
    if (code === '23505' && constraint?.includes('idempotency')) {
      const known = await store.releaseByKey(context.database, portfolioId, key);
      if (known) return { id: known.id, at: known.at, summary: known.summary };
    }
    // The last guard; locks make it all but impossible to get here.
    if (code === '23P01')
      throw new ConflictError(
        'Someone else has just taken that address for a time that overlaps. Look again, then press again.',
      );
    throw error;
  }
}

interface Written {
  readonly at: Instant;
  readonly act: string;
  readonly key: string;
  readonly undoes: ReleaseId | null;
  readonly summary: string;
}

async function writeRelease(
  trx: Knex.Transaction,
  context: Context,
  portfolioId: PortfolioId,
  release: Written,
  before: ReadonlyMap<PageId, PagePlan>,
  after: ReadonlyMap<PageId, PagePlan>,
  changeOf: (id: PageId) => unknown,
): Promise<ReleaseId> {
  const id = await store.insertRelease(trx, { portfolioId, accountId: context.account, ...release });
  const pages = [...after].map(([pageId, plan]) => ({
    pageId,
    before: before.get(pageId) as PagePlan,
    after: plan,
    change: changeOf(pageId),
  }));
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
  await writeAudit(
    trx,
    ...pages.map((page): AuditEntry => ({
      portfolioId,
      at: release.at,
      accountId: context.account,
      act: release.act,
      object: 'page',
      objectId: page.pageId,
      before: page.before,
      after: page.after,
      releaseId: id,
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
  const answers = answersOf(inputsOf(around.values(), siteAddresses)).filter((answer) => isTouched.has(keyOf(answer)));
  const derived = [...pageClaims(inputsOf(own, siteAddresses)), ...afterClaimsOf(answers)];
  const stored = [
    ...(await pageClaimsOf(trx, pageIds)),
    ...(await claimsAt(trx, addresses)).filter(({ layer }) => layer === 'after'),
  ];
  await saveClaims(trx, portfolioId, stored, derived);
}

/** All changes in words; many pages are counted, with the words they share. `isMany`: of drafts of many pages. */
function summaryOfAll(
  changes: readonly ReleaseChange[],
  words: (change: ReleaseChange, isMany: boolean) => string,
): string {
  if (changes.length <= 3) return changes.map((change) => words(change, false)).join('; ');
  const kinds = groupBy(changes, (change) => words(change, true));
  const parts = [...kinds].map(([text, group]) => `${text} (${group.length.toLocaleString('en')} pages)`);
  return parts.length <= 3 ? parts.join('; ') : `Changed ${changes.length.toLocaleString('en')} pages`;
}

/** `revision`: `null` for the draft of one of many pages. */
function summaryOf(change: ReleaseChange, zone: string, now: Instant, revision: number | null): string {
  const write = (moment: MomentInput) => writeInstant(instantOf(moment, now), zone, now);
  if (change.act === 'shift')
    return `Shifted by ${Math.abs(change.days)} ${Math.abs(change.days) === 1 ? 'day' : 'days'} ${change.days > 0 ? 'later' : 'earlier'}`;
  if (change.act === 'afterwards') return 'Changed what comes afterwards';
  if (change.act === 'bin') return 'Put in the bin';
  if (change.act === 'restore') return `Restored from the bin${change.isPlanned ? '' : ', off'}`;
  if (change.act === 'move') return `Moved to ${change.path} from ${write(change.at)}`;
  const until = change.until ? ` until ${writeEnd(instantOf(change.until, now), zone, now)}` : '';
  const more = change.act === 'release' ? (change.further?.length ?? 0) : 0;
  return change.act === 'release'
    ? `Put ${revision === null ? 'the drafts' : `revision ${revision}`} live from ${write(change.from)}${until}${more ? `, and ${more} more ${more === 1 ? 'period' : 'periods'}` : ''}`
    : `Took off from ${write(change.from)}${until}`;
}
