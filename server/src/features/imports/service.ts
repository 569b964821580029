import { randomBytes } from 'node:crypto';
import type { ImportField, ImportResult, ImportRow, ReleaseChange } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { instantOfWall, writeEnd, writeInstant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { insertCopies, insertDrafts } from '../copies/index.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError } from '../../platform/errors.js';
import { saveLabels } from '../pages/index.js';
import { takeIds } from '../../heart/plans/index.js';
import { judge, release, zoneOf } from '../../heart/releases/index.js';
import { changeOf, documentOf, readRow, type ReadRow } from './rows.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/imports';

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
  if (!rows.some(({ from }) => from)) {
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
  const first = rows.map((row) => readRow(row, { sites, campaigns, zone, now, pages: [] }));
  const pages = await store.knownPages(
    trx,
    portfolioId,
    first.map(({ path }) => path),
    now,
  );
  const seen = new Map<string, number>();
  return rows.map((row) => {
    const read = readRow(row, { sites, campaigns, zone, now, pages });
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
    fresh.map(({ name, title }, index) => [ids[index] as PageId, documentOf(name, title, newBlockId)]),
    now,
    account,
  );
  const made = new Map(fresh.map((one, index) => [one, ids[index] as PageId]));
  const changed = read.filter(({ page }) => page);
  await store.savePages(
    trx,
    changed.flatMap(({ page, name, campaignId }) =>
      page ? [{ id: page.id, name, campaignId: campaignId === undefined ? page.campaign_id : campaignId }] : [],
    ),
    now,
    account,
  );
  await store.saveDrafts(
    trx,
    changed.flatMap(({ page, title }) =>
      page && title && title !== page.document.metadata.title
        ? [[page.id, { ...page.document, metadata: { ...page.document.metadata, title } }] as const]
        : [],
    ),
    now,
    account,
  );
  const idOf = (one: ReadRow) => (one.page?.id ?? made.get(one)) as PageId;
  await saveLabels(
    trx,
    portfolioId,
    read.flatMap((one) => (one.labels ? [{ id: idOf(one), labels: one.labels }] : [])),
  );
  await writeAudit(
    trx,
    ...read.map((one): AuditEntry => ({
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

function resultOf(read: ReadRow, blocked: readonly string[], { now }: Context): ImportResult {
  const { row, page, name, title, labels, campaignId, from, until } = read;
  const zone = from && from !== 'now' ? from.zone : (until?.zone ?? 'UTC');
  const start = from && from !== 'now' ? instantOfWall(from) : null;
  const end = until && instantOfWall(until);
  const words = [
    ...(page && name !== page.name ? [say.renamedFrom(page.name)] : []),
    ...(page && title && title !== page.document.metadata.title ? [say.anotherTitleInTheDraft] : []),
    ...(labels && labels.join() !== (page?.labels ?? []).join() ? [say.labels(labels.join(', '))] : []),
    ...(campaignId !== undefined && campaignId !== (page?.campaign_id ?? null)
      ? [campaignId === null ? say.noCampaign : say.campaign(row.campaign)]
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
