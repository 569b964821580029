import type { Changes, PreparedBody, PreparedView, ReleaseView } from '@domatium/contracts';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { instantOfWall, writeInstant, type Instant } from '@domatium/core/time';
import { UNNAMED, RELEASE_FAULTS } from '@domatium/core/words';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { tellByMail } from '../../platform/mail/index.js';
import { ConflictError, InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import { approvalsWanted, namesOfPages, release, zoneOf } from '../releases/index.js';
import { itemsById } from '../stock/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/prepared';

/** Prepared releases that wait, newest first. */
export async function preparedReleases({ database, now }: Context, portfolioId: PortfolioId): Promise<PreparedView[]> {
  const rows = await store.preparedOf(database, portfolioId);
  const ids = rows.flatMap(({ changes }) => changes.map(({ pageId }) => pageId as PageId));
  const names = await namesOfPages(database, portfolioId, [...new Set(ids)]);
  const things = await itemsById(
    database,
    portfolioId,
    rows.flatMap(({ stock }) => stock.map(({ itemId }) => itemId)),
  );
  const thingNames = new Map(things.map(({ id, name }) => [id, name]));
  const approvers = await store.approversOf(database, portfolioId);
  const given = groupBy(
    await store.approvalsOf(
      database,
      rows.map(({ id }) => id),
    ),
    ({ prepared_id }) => prepared_id,
  );
  const words = groupBy(
    await store.wordsOf(
      database,
      rows.map(({ id }) => id),
    ),
    ({ prepared_id }) => prepared_id,
  );
  const views: PreparedView[] = [];
  for (const row of rows) {
    const wanted = await approvalsWanted(database, portfolioId, row, now);
    const approved = given.get(row.id) ?? [];
    const gone = new Set([...authorsOf(row), ...approved.map(({ account_id }) => account_id)]);
    const startsAt = firstStart(row);
    const pages = [...new Set(row.changes.map(({ pageId }) => pageId))];
    views.push({
      id: row.id,
      name: row.name,
      version: row.version,
      madeAt: row.made_at,
      madeBy: row.made_by,
      changedAt: row.changed_at,
      changedBy: row.changed_by,
      changes: row.changes,
      stock: row.stock,
      pages: pages.map((id) => ({ id, name: names.get(id as PageId) ?? UNNAMED.page })),
      items: row.stock.map(({ itemId }) => ({ id: itemId, name: thingNames.get(itemId) ?? say.somethingRemoved })),
      startsAt,
      isLapsed: startsAt !== null && startsAt < now,
      approvals: {
        needed: Math.max(0, ...wanted.map(({ approvals }) => approvals)),
        given: approved.map(({ account_id, name }) => ({ id: account_id, name })),
        waitsFor: approvers.filter(({ id }) => !gone.has(id)),
      },
      words: (words.get(row.id) ?? []).map(({ id, at, by, text, sends_back }) => ({
        ...{ id, at, by, text, sendsBack: sends_back },
      })),
      isSentBack: isSentBack(row, words.get(row.id) ?? []),
    });
  }
  return views;
}

/** Who wrote it as it is: they don't approve their own. */
const authorsOf = ({ made_by_id, changed_by_id }: store.PreparedRow) => [made_by_id, changed_by_id];

/** What is said last of it as it is sends it back. */
const isSentBack = ({ version }: store.PreparedRow, words: readonly store.WordRow[]) =>
  words.some((word) => word.sends_back && word.version === version);

const placeOf = (portfolioId: PortfolioId, id: number) =>
  `/portfolios/${portfolioId}/pages?panel=prepared&prepared=${id}`;

/** Those who work on a prepared release, but for one of them: who wrote it, and who said something of it. */
async function workersOn(db: Db, row: store.PreparedRow, but: number | null): Promise<(number | null)[]> {
  const said = (await store.wordsOf(db, [row.id])).map(({ account_id }) => account_id);
  return [...authorsOf(row), ...said].filter((id) => id !== but);
}

/** Tells those who may approve that something waits for them. */
async function askForApproval(
  trx: Db,
  { now, account }: Pick<Context, 'now' | 'account'>,
  portfolioId: PortfolioId,
  id: number,
): Promise<void> {
  const [row] = await store.preparedOf(trx, portfolioId, id);
  if (!row || !(await approvalsWanted(trx, portfolioId, row, now)).length) return;
  const gone = new Set<number | null>([...authorsOf(row), account]);
  const asked = (await store.approversOf(trx, portfolioId)).flatMap((one) => (gone.has(one.id) ? [] : [one.id]));
  const text = say.wantsAnApproval(row.name, row.changed_by ?? say.someoneElse);
  await tellByMail(trx, asked, { portfolioId, text, path: placeOf(portfolioId, id) }, now);
}

/** Says something of a prepared release to the others who work on it; whoever may approve can send it back with it. */
export function sayOf(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, text, sendsBack }: { readonly version: number; readonly text: string; readonly sendsBack: boolean },
): Promise<{ id: number }> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    const row = await waiting(trx, portfolioId, id, version);
    const approvers = (await store.approversOf(trx, portfolioId)).map((one) => one.id);
    if (sendsBack && (account === null || authorsOf(row).includes(account) || !approvers.includes(account)))
      throw new ConflictError(say.onlyWhoMayApproveSendsItBack);
    const word = {
      portfolio_id: portfolioId,
      prepared_id: id,
      account_id: account,
      text,
      version,
      sends_back: sendsBack,
    };
    const made = await store.insertWord(trx, word, now);
    if (sendsBack) await store.deleteApproval(trx, id, account);
    const news = sendsBack ? say.isSentBack(row.name) : say.wasSpokenOf(row.name);
    const path = placeOf(portfolioId, id);
    await tellByMail(trx, await workersOn(trx, row, account), { portfolioId, text: news, more: text, path }, now);
    await tell(
      trx,
      context,
      portfolioId,
      id,
      sendsBack ? 'send-back-prepared' : 'say-of-prepared',
      row.changes,
      undefined,
      { text },
    );
    return { id: made };
  });
}

/** Somebody else says that a prepared release may go. Whatever is changed in it afterwards asks for it anew. */
export function approvePrepared(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
): Promise<{ id: number }> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    const row = await waiting(trx, portfolioId, id, version);
    if (account === null || authorsOf(row).includes(account))
      throw new ConflictError(say.youPreparedThisYourselfSomeoneElse);
    await store.insertApproval(trx, portfolioId, id, version, account, now);
    const news = { portfolioId, text: say.isApproved(row.name), path: placeOf(portfolioId, id) };
    await tellByMail(trx, authorsOf(row), news, now);
    await tell(trx, context, portfolioId, id, 'approve-prepared', row.changes, undefined, { version });
    return { id };
  });
}

/** The first instant of changes that is a time of its own; `null` where all begin at the press. */
export function firstStart({ changes, stock = [] }: Changes): Instant | null {
  const starts = [...changes, ...stock].flatMap((change) => {
    const moment = change.act === 'move' ? change.at : 'from' in change ? (change.from ?? 'now') : 'now';
    const at = moment === 'now' ? null : instantOfWall(moment);
    return at === null ? [] : [at];
  });
  return starts.length ? (Math.min(...starts) as Instant) : null;
}

/** Writes changes down; nobody's address is held and nothing is published. */
export async function prepare(
  context: Context,
  portfolioId: PortfolioId,
  preparing: PreparedBody,
): Promise<{ id: number }> {
  return { id: await inTransaction(context.database, (trx) => prepareIn(trx, context, portfolioId, preparing)) };
}

/** The same inside a transaction of somebody else's. */
export async function prepareIn(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  preparing: PreparedBody,
): Promise<number> {
  await refuseForeign(trx, portfolioId, preparing);
  const id = await store.insertPrepared(trx, portfolioId, preparing, now, account);
  await tell(trx, { now, account }, portfolioId, id, 'prepare', preparing.changes, undefined, preparing);
  await askForApproval(trx, { now, account }, portfolioId, id);
  return id;
}

export async function changePrepared(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
  preparing: PreparedBody,
): Promise<{ version: number }> {
  return inTransaction(context.database, async (trx) => {
    const before = await waiting(trx, portfolioId, id, version);
    await refuseForeign(trx, portfolioId, preparing);
    await store.updatePrepared(trx, portfolioId, id, preparing, context.now, context.account);
    const touched = [...before.changes, ...preparing.changes];
    await tell(trx, context, portfolioId, id, 'change-prepared', touched, before, preparing);
    await askForApproval(trx, context, portfolioId, id);
    return { version: version + 1 };
  });
}

/** Presses: a release like any other, and then it is no longer prepared. What lapsed says so instead. */
export async function pressPrepared(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
  idempotencyKey: string,
): Promise<ReleaseView> {
  const [row] = await store.preparedOf(context.database, portfolioId, id);
  const starts = row ? firstStart(row) : null;
  if (starts !== null && starts < context.now) {
    const zone = await zoneOf(context.database, portfolioId);
    throw new ConflictError(say.itsTimePassedOnBeforeIt(writeInstant(starts, zone, context.now)));
  }
  // Without a row it may have been pressed under this key already: the release says so itself.
  const { changes, stock } = row ?? { changes: [], stock: [] };
  const approvals = async (trx: Db) => (await store.approvalsOf(trx, [id])).length;
  const and = async (trx: Db, view: ReleaseView) => {
    // What was approved is this version: one that is newer is refused here, and with it the release.
    await waiting(trx, portfolioId, id, version);
    await store.notePressed(trx, id, view.id);
    await tell(trx, context, portfolioId, id, 'press-prepared', changes, undefined, { releaseId: view.id });
  };
  return release(context, portfolioId, { changes, stock, idempotencyKey }, and, undefined, approvals);
}

export async function dropPrepared(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const { name, changes } = await waiting(trx, portfolioId, id, version);
    await store.noteDropped(trx, id, context.now);
    await tell(trx, context, portfolioId, id, 'drop-prepared', changes, { name, changes }, undefined);
    return { id };
  });
}

/** A prepared release that still waits and is as it was seen, locked. */
async function waiting(trx: Db, portfolioId: PortfolioId, id: number, version: number): Promise<store.PreparedRow> {
  await store.lockPrepared(trx, portfolioId, id);
  const [row] = await store.preparedOf(trx, portfolioId, id);
  if (!row) throw new NotFoundError('prepared-release');
  if (row.version !== version)
    throw new StaleError(say.hasChangedThisSinceYouLooked(row.changed_by ?? say.someoneElse), {
      version: row.version,
    });
  return row;
}

async function refuseForeign(trx: Db, portfolioId: PortfolioId, { changes, stock = [] }: Changes): Promise<void> {
  const things = new Set(
    (
      await itemsById(
        trx,
        portfolioId,
        stock.map(({ itemId }) => itemId),
      )
    ).map(({ id }) => id),
  );
  const foreign = stock.findIndex(({ itemId }) => !things.has(itemId));
  if (foreign >= 0)
    throw new InvalidError([{ path: `stock[${foreign}].itemId`, message: RELEASE_FAULTS['item-elsewhere']() }]);
  const own = await store.ownPages(
    trx,
    portfolioId,
    changes.map(({ pageId }) => pageId),
  );
  const index = changes.findIndex(({ pageId }) => !own.has(pageId));
  if (index >= 0)
    throw new InvalidError([{ path: `changes[${index}].pageId`, message: RELEASE_FAULTS['page-elsewhere']() }]);
}

async function tell(
  trx: Db,
  { now, account }: Pick<Context, 'now' | 'account'>,
  portfolioId: PortfolioId,
  id: number,
  act: string,
  changes: readonly { readonly pageId: number }[],
  before: unknown,
  after: unknown,
): Promise<void> {
  await writeAudit(trx, {
    portfolioId,
    at: now,
    accountId: account,
    act,
    object: 'prepared',
    objectId: id,
    ...(before === undefined ? {} : { before }),
    ...(after === undefined ? {} : { after }),
  });
  const pageIds = [...new Set(changes.map(({ pageId }) => pageId))];
  await notifyEvent(trx, { portfolioId, kind: 'prepared', pageIds, by: account });
}
