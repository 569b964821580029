import type { MomentInput, NewStockBody, ReleaseView, StockItem, StockView } from '@domatium/contracts';
import { completeBlock, type Block } from '@domatium/core/document';
import { canonical, type PortfolioId, type ReleaseId } from '@domatium/core/plan';
import { contentFromJSON, paintStock, stockAt, type StockPeriod } from '@domatium/core/stock';
import { THEMES, isThemeKey } from '@domatium/core/theme';
import { instantOfWall, later, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit } from '../../platform/database/audit.js';
import { dateOf, inTransaction, rowsOf, setInstant, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { ConflictError, InvalidError, NotFoundError, Refused, StaleError } from '../../platform/errors.js';
import { tellWork } from '../../platform/work/index.js';
import * as releases from '../releases/index.js';
import { approvalsOf, insertApproval, refuseUnready } from './judge.js';
import * as store from './store.js';

/** The whole stock; themes that ship stand in it too, where a site has one or not. */
export async function stock({ database, now }: Context, portfolioId: PortfolioId): Promise<StockView[]> {
  const rows = await store.itemsOf(database, portfolioId);
  const over = await shelvesOf(
    database,
    rows.map(({ id }) => id),
  );
  const views: StockView[] = [];
  for (const row of rows) views.push(await viewOf(database, portfolioId, row, over, now));
  const own = new Set(rows.flatMap(({ kind, key }) => (kind === 'theme' && key ? [key] : [])));
  for (const [key, theme] of Object.entries(THEMES)) {
    if (own.has(key)) continue;
    const uses = await store.pagesUsing(database, portfolioId, { id: 0, kind: 'theme', key, site_id: null }, now);
    views.push({
      ...{ id: null, kind: 'theme', key, name: theme.label, siteId: null, draftVersion: 0, draftDiffers: false },
      ...{ changedAt: null, changedBy: null, periods: [], uses: uses.length },
    });
  }
  return views;
}

interface Shelves {
  readonly periods: ReadonlyMap<number, readonly StockPeriod[]>;
  readonly revisions: ReadonlyMap<number, { readonly number: number; readonly content: unknown }>;
}

async function shelvesOf(db: Db, ids: readonly number[]): Promise<Shelves> {
  const rows = await rowsOf<{ id: number; number: number; content: unknown }>(
    db,
    'SELECT id, number, content FROM stock_revision WHERE item_id = ANY(?)',
    [[...ids]],
  );
  return { periods: await store.periodsOf(db, ids), revisions: new Map(rows.map(({ id, ...rest }) => [id, rest])) };
}

async function viewOf(
  db: Db,
  portfolioId: PortfolioId,
  row: store.ItemRow,
  over: Shelves,
  now: Instant,
): Promise<StockView> {
  const periods = over.periods.get(row.id) ?? [];
  const held = stockAt(periods, now);
  const content = held && over.revisions.get(held.revisionId)?.content;
  const shipped = row.kind === 'theme' && isThemeKey(row.key) ? THEMES[row.key] : null;
  return {
    ...{
      id: row.id,
      kind: row.kind,
      key: row.key,
      name: row.name,
      siteId: row.site_id,
      draftVersion: row.draft_version,
    },
    ...{ changedAt: row.changed_at, changedBy: row.changed_by },
    draftDiffers: canonical(content ?? shipped ?? null) !== canonical(row.draft),
    periods: periods.map(({ revisionId, during }) => ({
      ...during,
      revision: over.revisions.get(revisionId)?.number ?? 0,
    })),
    uses: (await store.pagesUsing(db, portfolioId, row, now)).length,
  };
}

export async function stockItem({ database, now }: Context, portfolioId: PortfolioId, id: number): Promise<StockItem> {
  const row = await found(database, portfolioId, id);
  const view = await viewOf(database, portfolioId, row, await shelvesOf(database, [id]), now);
  const live = await store.pagesUsing(database, portfolioId, row, now);
  const drafts = row.kind === 'piece' ? await store.draftsUsing(database, portfolioId, id) : [];
  const isLive = new Set(live.map(({ page_id }) => page_id));
  return {
    ...view,
    draft: row.kind === 'piece' ? (row.draft as readonly Block[]).map(completeBlock) : row.draft,
    revisions: (await store.revisionsOf(database, id)).map(({ number, created_at, created_by, content }) => ({
      number,
      at: created_at,
      by: created_by,
      content,
    })),
    pages: [
      ...live.map(({ page_id, name, host, path }) => ({
        pageId: page_id,
        name,
        address: `${host}${path}`,
        isDraft: false,
      })),
      ...drafts
        .filter(({ page_id }) => !isLive.has(page_id))
        .map(({ page_id, name }) => ({ pageId: page_id, name, address: '', isDraft: true })),
    ],
    releases: await releasesOf(database, id),
    approvals: await approvalsOf(database, portfolioId, row, now),
  };
}

async function found(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<store.ItemRow> {
  const row = await store.itemById(db, portfolioId, id, lock);
  if (!row) throw new NotFoundError('thing in the stock');
  return row;
}

interface ReleaseRow {
  readonly id: ReleaseId;
  readonly at: Instant;
  readonly by: string | null;
  readonly summary: string;
  readonly out_at: Instant | null;
  readonly undoes_id: ReleaseId | null;
  readonly before: readonly StockPeriod[];
}

async function releaseRows(db: Db, itemId: number): Promise<ReleaseRow[]> {
  return rowsOf(
    db,
    'SELECT r.id, r.at, a.name AS by, r.summary, r.out_at, r.undoes_id, s.before FROM release_stock s JOIN release r ON r.id = s.release_id LEFT JOIN account a ON a.id = r.account_id WHERE s.item_id = ? ORDER BY r.id DESC',
    [itemId],
  );
}

/** The newest release that is in force: that is the one an undo puts back. */
function lastInForce(rows: readonly ReleaseRow[]): ReleaseRow | null {
  const undone = new Set(rows.flatMap(({ undoes_id }) => undoes_id ?? []));
  return rows.find(({ id, undoes_id }) => undoes_id === null && !undone.has(id)) ?? null;
}

async function releasesOf(db: Db, itemId: number): Promise<StockItem['releases']> {
  const rows = await releaseRows(db, itemId);
  const undone = new Set(rows.flatMap(({ undoes_id }) => undoes_id ?? []));
  const last = lastInForce(rows);
  return rows.map(({ id, at, by, summary, out_at }) => ({
    ...{ id, at, by, summary, outAt: out_at },
    isUndone: undone.has(id),
    mayUndo: id === last?.id,
  }));
}

function checked(kind: NewStockBody['kind'], json: unknown) {
  const read = contentFromJSON(kind, json);
  if (!read.ok) throw new InvalidError(read.faults.map(({ path, message }) => ({ path: `content.${path}`, message })));
  return read.value;
}

export async function newStock(
  context: Context,
  portfolioId: PortfolioId,
  body: NewStockBody,
): Promise<{ id: number }> {
  const { kind, name, key = null, siteId = null } = body;
  const draft = checked(kind, body.content);
  return inTransaction(context.database, async (trx) => {
    if (kind === 'theme' && key !== null && !isThemeKey(key))
      throw new InvalidError([{ path: 'key', message: 'Unknown theme.' }]);
    const mayBeOfSite = kind === 'values' || kind === 'css';
    if (siteId !== null && !(mayBeOfSite && (await store.siteOfItem(trx, portfolioId, siteId))))
      throw new InvalidError([{ path: 'siteId', message: 'Unknown site.' }]);
    if (siteId === null && kind === 'css')
      throw new InvalidError([{ path: 'siteId', message: 'Choose the site this CSS is for.' }]);
    const itemKey = kind === 'theme' ? (key ?? `own-${context.now.toString(36)}`) : null;
    const made = { at: context.now, by: context.account };
    const id = await store
      .insertItem(trx, portfolioId, { kind, key: itemKey, name, siteId, draft }, made)
      .catch((error: unknown) => {
        if ((error as { code?: string }).code === '23505')
          throw new ConflictError(
            kind === 'theme' ? 'This theme has been changed here already.' : 'This site already has its own.',
          );
        throw error;
      });
    await note(trx, context, portfolioId, id, 'new-stock', null, { kind, name });
    return { id };
  });
}

async function note(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  act: string,
  before: unknown,
  after: unknown,
) {
  const entry = {
    portfolioId,
    at: context.now,
    accountId: context.account,
    act,
    object: 'stock' as const,
    objectId: id,
  };
  await writeAudit(trx, { ...entry, before, after });
  await notifyEvent(trx, { portfolioId, kind: 'stock', pageIds: [], by: context.account });
}

export async function saveStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, name, content }: { readonly version: number; readonly name: string; readonly content: unknown },
): Promise<{ version: number }> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    const draft = checked(row.kind, content);
    if (row.draft_version !== version)
      throw new StaleError(`${row.changed_by ?? 'Someone else'} has changed this since you opened it.`, {
        version: row.draft_version,
        name: row.name,
        content: row.draft,
      });
    const changed = { draft: JSON.stringify(draft), name, draft_version: version + 1 };
    await trx('stock_item')
      .where({ id })
      .update({ ...changed, changed_at: dateOf(context.now), changed_by: context.account });
    await note(trx, context, portfolioId, id, 'save-stock', null, { version: version + 1 });
    return { version: version + 1 };
  });
}

/** Somebody else says that a draft may go on its pages. Whatever is changed in it afterwards asks for it anew. */
export async function approveStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
): Promise<object> {
  const { account, now } = context;
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    if (row.draft_version !== version)
      throw new StaleError('It has changed since you opened it.', { version: row.draft_version });
    if (account === null || row.changed_by_id === account)
      throw new ConflictError('You changed this yourself; someone else has to approve it.');
    await insertApproval(trx, portfolioId, row, account, now);
    await note(trx, context, portfolioId, id, 'approve-stock', null, { version });
    return {};
  });
}

const instantOf = (moment: MomentInput, now: Instant): Instant =>
  moment === 'now' ? now : (instantOfWall(moment) as Instant);

/** Puts the draft on every page that uses it; the pages themselves need nothing. */
export async function releaseStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  body: {
    readonly from: MomentInput;
    readonly until?: MomentInput | null | undefined;
    readonly isTakenOff?: boolean | undefined;
    readonly idempotencyKey: string;
  },
): Promise<ReleaseView> {
  return decided(context, portfolioId, id, body.idempotencyKey, async (trx, row, before, instant) => {
    const from = instantOf(body.from, instant);
    const until = body.until ? instantOf(body.until, instant) : null;
    if (from < instant)
      throw new InvalidError([{ path: 'from', message: 'That moment has passed. Choose a later one, or now.' }]);
    if (until !== null && until <= from)
      throw new InvalidError([{ path: 'until', message: 'The end must be after the start.' }]);
    if (body.isTakenOff && row.kind !== 'piece')
      throw new InvalidError([{ path: 'isTakenOff', message: 'Only a piece can be taken off.' }]);
    if (!body.isTakenOff) await refuseUnready(trx, portfolioId, row, instant);
    const revision = body.isTakenOff
      ? null
      : await store.freeze(trx, portfolioId, row, { at: instant, by: context.account });
    const zone = await releases.zoneOf(trx, portfolioId);
    const act = revision
      ? `Put revision ${revision.number} of ${row.name} on its pages`
      : `Took ${row.name} off its pages`;
    const begins = body.from === 'now' ? '' : ` from ${writeInstant(from, zone, instant)}`;
    const ends = until === null ? '' : ` until ${writeEnd(until, zone, instant)}`;
    return {
      after: paintStock(before, revision?.id ?? null, { from, until }),
      summary: `${act}${begins}${ends}`,
      undoes: null,
    };
  });
}

/** Puts back what held before the last release that is in force, from now on. */
export async function undoStock(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  key: string,
): Promise<ReleaseView> {
  return decided(context, portfolioId, id, key, async (trx, _, before, instant) => {
    const last = lastInForce(await releaseRows(trx, id));
    if (!last) throw new ConflictError('There is nothing to undo.');
    const zone = await releases.zoneOf(trx, portfolioId);
    const past = before.flatMap((period): StockPeriod[] =>
      period.during.from < instant
        ? [{ ...period, during: { from: period.during.from, until: earliest(period.during.until, instant) } }]
        : [],
    );
    const ahead = last.before.flatMap((period): StockPeriod[] =>
      period.during.until === null || period.during.until > instant
        ? [{ ...period, during: { from: latest(period.during.from, instant), until: period.during.until } }]
        : [],
    );
    return {
      after: [...past, ...ahead].reduce<StockPeriod[]>(
        (all, { revisionId, during }) => paintStock(all, revisionId, during),
        [],
      ),
      summary: `Undid “${last.summary}” of ${writeInstant(last.at, zone, instant)}`,
      undoes: last.id,
    };
  });
}

const earliest = (a: Instant | null, b: Instant): Instant => (a === null || a > b ? b : a);
const latest = (a: Instant, b: Instant): Instant => (a > b ? a : b);

interface Decision {
  readonly after: readonly StockPeriod[];
  readonly summary: string;
  readonly undoes: ReleaseId | null;
}

/** One release of something in the stock, in one transaction: its periods, its row, its job. The same key gives the same release. */
async function decided(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  key: string,
  decide: (
    trx: Knex.Transaction,
    row: store.ItemRow,
    before: readonly StockPeriod[],
    instant: Instant,
  ) => Promise<Decision>,
): Promise<ReleaseView> {
  return inTransaction(context.database, async (trx) => {
    await releases.lockKey(trx, portfolioId, key);
    const known = await releases.releaseByKey(trx, portfolioId, key);
    if (known) return { id: known.id, at: known.at, summary: known.summary };
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    const before = (await store.periodsOf(trx, [id])).get(id) ?? [];
    const last = before.reduce(
      (most, { during }) => (during.from <= context.now && during.from > most ? during.from : most),
      0 as Instant,
    );
    const read = context.clock();
    const instant = last >= read ? later(last, 1) : read;
    await setInstant(trx, instant);
    const { after, summary, undoes } = await decide(trx, row, before, instant);
    await store.writePeriods(trx, portfolioId, id, after, instant);
    const release = { at: instant, act: undoes === null ? 'stock' : 'undo', key, undoes, summary };
    const releaseId = await releases.insertRelease(trx, { portfolioId, accountId: context.account, ...release });
    await trx('release_stock').insert({
      ...{ release_id: releaseId, portfolio_id: portfolioId, item_id: id },
      ...{ before: JSON.stringify(before), after: JSON.stringify(after) },
    });
    await note(trx, context, portfolioId, id, release.act, before, after);
    await tellWork(trx, 'publication');
    await notifyEvent(trx, { portfolioId, kind: 'released', pageIds: [], releaseId, by: context.account });
    return { id: releaseId, at: instant, summary };
  });
}

/** Undoes a release of the stock that could not be published; gives whether it was one. */
export async function undoFailedStock(
  context: Context,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  key: string,
): Promise<boolean> {
  const [row] = await rowsOf<{ item_id: number }>(
    context.database,
    'SELECT item_id FROM release_stock WHERE release_id = ?',
    [releaseId],
  );
  if (row) await undoStock(context, portfolioId, row.item_id, key);
  return row !== undefined;
}

export async function removeStock(context: Context, portfolioId: PortfolioId, id: number): Promise<object> {
  return inTransaction(context.database, async (trx) => {
    const row = await found(trx, portfolioId, id, 'FOR UPDATE OF i');
    if (row.kind === 'values' || row.kind === 'css')
      throw new ConflictError('This belongs to its site or portfolio. Empty it, and put that on its pages.');
    const item = await stockItem({ ...context, database: trx as unknown as Knex }, portfolioId, id);
    const sites = row.kind === 'theme' && row.key ? await store.sitesWithTheme(trx, portfolioId, row.key) : [];
    const users = [...sites.map(({ brand }) => brand), ...item.pages.map(({ name }) => name)];
    if (users.length)
      throw new Refused(
        'in-use',
        `${users.slice(0, 3).join(', ')}${users.length > 3 ? ` and ${users.length - 3} more` : ''} ${users.length === 1 ? 'uses' : 'use'} it. Unlink it there first, or choose another.`,
      );
    await trx('stock_item')
      .where({ id })
      .update({ removed_at: dateOf(context.now), key: row.key && `${row.key} removed ${id}` });
    await note(trx, context, portfolioId, id, 'remove-stock', null, null);
    return {};
  });
}
