import { randomBytes } from 'node:crypto';
import type { ImportField, ImportResult, ImportRow, ReleaseChange } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instantOfWall, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { insertCopies, insertDrafts } from '../copies/index.js';
import { keepStates } from '../drafts/index.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError, Refused } from '../../platform/errors.js';
import { saveLabels } from '../pages/index.js';
import { afterwardsCell, plansOf, takeIds } from '../../heart/plans/index.js';
import { shownPeriod } from '@domatium/core/register';
import { judge, release, releaseOfKey, zoneOf } from '../../heart/releases/index.js';
import { changeOf, documentOf, readRow, targetPathOf, type ReadRow } from './rows.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/imports';
import { METADATA_LABELS } from '@domatium/core/words';
import { say as views } from '@domatium/core/words/answers/views';

const NAMED = 500;
const newBlockId = () => randomBytes(6).toString('hex');

/** Thrown to give back what a preview tried; nothing of it stays. */
class Tried extends Error {
  constructor(readonly results: ImportResult[]) {
    super(say.onlyTried);
  }
}

/** What rows would create and change, and what is wrong with each: tried in a transaction that is rolled back. */
export async function importPreview(
  context: Context,
  portfolioId: PortfolioId,
  rows: readonly ImportRow[],
): Promise<{ rows: ImportResult[] }> {
  try {
    await inTransaction(context.database, async (trx) => {
      const read = await readRows(trx, context, portfolioId, rows);
      await context.step?.(0.3);
      const good = read.filter(({ errors }) => !errors.length);
      const applied = await applyRows(trx, context, portfolioId, good);
      await context.step?.(0.5);
      const changes = applied.flatMap(({ change }) => (change ? [change] : []));
      const blocked = changes.length
        ? await refusalsOf(trx, context, portfolioId, changes)
        : new Map<number, string[]>();
      const pageOf = new Map(applied.map(({ read: { row }, pageId }) => [row.line, pageId]));
      throw new Tried(read.map((one) => resultOf(one, blocked.get(pageOf.get(one.row.line) ?? 0) ?? [], context)));
    });
  } catch (error) {
    if (error instanceof Tried) return { rows: error.results };
    throw error;
  }
  return { rows: [] };
}

async function refusalsOf(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  changes: readonly ReleaseChange[],
): Promise<Map<number, string[]>> {
  const judged = await judge({ db: trx, portfolioId, style: context.style }, { changes }, context.now, {
    ...(context.step ? { step: (share) => context.step?.(0.5 + 0.45 * share) ?? Promise.resolve() } : {}),
  });
  const refused = new Map<number, string[]>();
  const note = (pageId: number | undefined, message: string) => {
    if (pageId !== undefined) refused.set(pageId, [...(refused.get(pageId) ?? []), message]);
  };
  for (const { path, message } of judged.faults) note(changes[Number(/\d+/.exec(path)?.[0])]?.pageId, message);
  for (const { pageId, severity, message } of judged.findings) if (severity === 'blocks') note(pageId, message);
  return refused;
}

/** Creates and changes pages from rows, all or none; what touches visitors is one release. */
export async function importRows(
  context: Context,
  portfolioId: PortfolioId,
  rows: readonly ImportRow[],
  idempotencyKey: string,
  mayRelease = true,
): Promise<{ created: number; changed: number; releaseId: number | null }> {
  let counts = { created: 0, changed: 0 };
  const apply = async (trx: Knex.Transaction): Promise<ReleaseChange[]> => {
    const read = await readRows(trx, context, portfolioId, rows);
    const wrong = read.flatMap(({ row, errors }) =>
      errors.map(({ field, message }) => ({ path: say.line(row.line, field ? `, ${field}` : ''), message })),
    );
    if (wrong.length) throw new InvalidError(wrong);
    const applied = await applyRows(trx, context, portfolioId, read);
    counts = {
      created: applied.filter(({ read: { page } }) => !page).length,
      changed: applied.filter(({ read: { page } }) => page).length,
    };
    return applied.flatMap(({ change }) => (change ? [change] : []));
  };
  const { release: known } = await releaseOfKey(context, portfolioId, idempotencyKey);
  // What was done under this key already is not looked at again.
  const read = known ? [] : await inTransaction(context.database, (trx) => readRows(trx, context, portfolioId, rows));
  const isForVisitors = read.some((one) => one.from !== null || one.afterwards !== null || one.further.length > 0);
  if (isForVisitors && !mayRelease) throw new Refused('not-allowed', say.rowsWithAStartChangeWhat);
  if (!known && !isForVisitors) {
    await inTransaction(context.database, apply);
    return { ...counts, releaseId: null };
  }
  const { id } = await release(context, portfolioId, { changes: [], idempotencyKey }, undefined, async (trx) => ({
    changes: await apply(trx),
  }));
  return { ...counts, releaseId: id };
}

async function readRows(
  trx: Db,
  { now }: Context,
  portfolioId: PortfolioId,
  rows: readonly ImportRow[],
): Promise<ReadRow[]> {
  const [sites, campaigns] = [await store.sitesOf(trx, portfolioId, now), await store.campaignsOf(trx, portfolioId)];
  const zone = await zoneOf(trx, portfolioId);
  const people = await store.peopleOf(trx, portfolioId);
  const known = { sites, campaigns, people, zone, now };
  const first = rows.map((row) => readRow(row, { ...known, pages: [] }));
  const pages = await withAfterwards(
    trx,
    portfolioId,
    await store.knownPages(
      trx,
      portfolioId,
      [...first.map(({ path }) => path), ...rows.flatMap((row) => targetPathOf(row, sites) ?? [])],
      rows.flatMap(({ id }) => (/^\d{1,9}$/.test(id) ? [Number(id)] : [])),
      now,
    ),
    now,
  );
  const seen = new Map<string, number>();
  return rows.map((row) => {
    const read = readRow(row, { ...known, pages });
    const key = `${read.siteId} ${read.path}`;
    const earlier = seen.get(key);
    if (!read.errors.length && earlier !== undefined) {
      const message = say.lineHasTheSameAddress(earlier);
      return { ...read, errors: [{ field: 'path' as const, message }] };
    }
    seen.set(key, row.line);
    return read;
  });
}

/** Pages with what a list says comes behind the period that it shows. */
async function withAfterwards(
  trx: Db,
  portfolioId: PortfolioId,
  pages: readonly Omit<store.KnownPage, 'afterwards'>[],
  now: Instant,
): Promise<store.KnownPage[]> {
  const plans = await plansOf(
    trx,
    portfolioId,
    pages.map(({ id }) => id),
  );
  const targets = [...plans.values()].flatMap((plan) =>
    [...plan.periods.map(({ leaves }) => leaves?.answer), ...plan.statements.map(({ answer }) => answer)].flatMap(
      (answer) => (answer?.kind === 'redirect' && answer.target.kind === 'page' ? [answer.target.pageId] : []),
    ),
  );
  const addresses = await store.addressesOfPages(trx, portfolioId, targets, now);
  const addressOf = (id: PageId) => addresses.get(id) ?? views.page(id);
  return pages.map((page) => {
    const [plan, shown] = [plans.get(page.id), shownPeriod(page.periods, now)];
    return { ...page, afterwards: plan && shown ? afterwardsCell(plan, shown, addressOf) : '' };
  });
}

interface AppliedRow {
  readonly read: ReadRow;
  readonly pageId: PageId;
  readonly change: ReleaseChange | null;
}

async function applyRows(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  read: readonly ReadRow[],
): Promise<AppliedRow[]> {
  await setInstant(trx, now);
  const fresh = read.filter(({ page }) => !page);
  const nextId = await takeIds(trx, fresh.length);
  const ids = await insertCopies(
    trx,
    portfolioId,
    fresh.map(({ name, siteId, path, campaignId }) => ({
      name,
      siteId,
      path,
      role: path === '/' ? 'home' : 'ordinary',
      campaignId: campaignId ?? null,
      templateId: null,
      placementId: nextId(),
    })),
    now,
    account,
  );
  await insertDrafts(
    trx,
    portfolioId,
    fresh.map((one, index) => [ids[index] as PageId, documentOf(one, newBlockId)]),
    now,
    account,
  );
  const made = new Map(fresh.map((one, index) => [one, ids[index] as PageId]));
  // What is as the row says it is left alone.
  const changed = read.filter((one) => one.page && !isSame(one));
  await store.savePages(
    trx,
    changed.flatMap(({ page, name, campaignId, ownerId }) =>
      page
        ? [
            {
              ...{ id: page.id, name },
              campaignId: campaignId === undefined ? page.campaign_id : campaignId,
              ownerId: ownerId === undefined ? page.owner_id : ownerId,
            },
          ]
        : [],
    ),
    now,
    account,
  );
  const set = changed.flatMap(({ page, metadata, settings }) =>
    page && settings.length ? [[page.id, { ...page.document, metadata }] as const] : [],
  );
  await keepStates(
    trx,
    set.map(([id]) => id),
  );
  await store.saveDrafts(trx, set, now, account);
  const idOf = (one: ReadRow) => (one.page?.id ?? made.get(one)) as PageId;
  await saveLabels(
    trx,
    portfolioId,
    [...fresh, ...changed].flatMap((one) => (one.labels ? [{ id: idOf(one), labels: one.labels }] : [])),
  );
  await writeAudit(
    trx,
    ...[...fresh, ...changed].map((one): AuditEntry => ({
      portfolioId,
      at: now,
      accountId: account,
      act: 'import',
      object: 'page',
      objectId: idOf(one),
      ...(one.page ? { before: { name: one.page.name, labels: one.page.labels } } : {}),
      after: one.row,
    })),
  );
  const pageIds = read.map(idOf);
  await notifyEvent(trx, { portfolioId, kind: 'page', by: account, ...(pageIds.length <= NAMED ? { pageIds } : {}) });
  return read.map((one) => ({ read: one, pageId: idOf(one), change: changeOf(one, idOf(one)) }));
}

/** Whether a page is all that its row says, but for its times. */
const isSame = ({ page, name, settings, labels, campaignId, ownerId }: ReadRow): boolean =>
  page !== null &&
  name === page.name &&
  !settings.length &&
  (labels === null || labels.join('|') === page.labels.join('|')) &&
  (campaignId === undefined || campaignId === page.campaign_id) &&
  (ownerId === undefined || ownerId === page.owner_id);

function resultOf(read: ReadRow, blocked: readonly string[], { now }: Context): ImportResult {
  const { row, page, name, settings, labels, campaignId, ownerId, from, until } = read;
  const zone = from && from !== 'now' ? from.zone : (until?.zone ?? 'UTC');
  const start = from && from !== 'now' ? instantOfWall(from) : null;
  const end = until && instantOfWall(until);
  const words = [
    ...(page && name !== page.name ? [say.renamedFrom(page.name)] : []),
    ...(page ? settings.map((key) => say.settingInTheDraft(key === 'robots' ? say.robots : METADATA_LABELS[key])) : []),
    ...(labels && labels.join() !== (page?.labels ?? []).join() ? [say.labels(labels.join(', '))] : []),
    ...(campaignId !== undefined && campaignId !== (page?.campaign_id ?? null)
      ? [campaignId === null ? say.noCampaign : say.campaign(row.campaign)]
      : []),
    ...(ownerId !== undefined && ownerId !== (page?.owner_id ?? null)
      ? [ownerId === null ? say.noOwner : say.owner(row.owner)]
      : []),
    ...(from
      ? [
          say.liveFrom(
            start === null ? say.now : writeInstant(start, zone, now),
            end === null ? '' : say.to(writeEnd(end, zone, now)),
          ),
        ]
      : []),
  ];
  for (const one of read.further) {
    const [first, last] = [instantOfWall(one.from), one.until && instantOfWall(one.until)];
    const end = last === null ? '' : say.to(writeEnd(last, one.from.zone, now));
    if (first !== null) words.push(say.liveFrom(writeInstant(first, one.from.zone, now), end));
  }
  if (read.afterwards) words.push(say.afterwardsIt(row.afterwards));
  const errors = [...read.errors, ...blocked.map((message) => ({ field: 'from' as ImportField, message }))];
  return {
    line: row.line,
    act: errors.length ? 'wrong' : !page ? 'create' : words.length ? 'change' : 'same',
    name,
    address: readablePath(read.address),
    words,
    errors,
  };
}
