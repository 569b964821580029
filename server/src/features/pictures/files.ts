import type { FileUses, FileView, Received, Role } from '@domatium/contracts';
import { USES_NAMED } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { NotFoundError, Refused, StaleError } from '../../platform/errors.js';
import * as store from './files-store.js';
import { namedUses, reachOfFile, refusalOf, refuseAtOnce, refuseUsed } from './judge.js';
import { say } from '@domatium/core/words/answers/pictures';

/** Where the canvas finds the files of a portfolio. */
export const placeOf = (portfolioId: PortfolioId) => `/api/portfolios/${portfolioId}/files`;

const fileView = ({ hash, former, ...file }: store.StoredFile, place: string): FileView => ({
  ...file,
  former: former && { bytes: former.bytes },
  src: `${place}/${hash}.${file.ending}`,
});

export async function filesWith(db: Db, portfolioId: PortfolioId, place: string): Promise<FileView[]> {
  return (await store.filesOf(db, portfolioId)).map((file) => fileView(file, place));
}

export function filesOf({ database }: Context, portfolioId: PortfolioId): Promise<FileView[]> {
  return filesWith(database, portfolioId, placeOf(portfolioId));
}

/** A file that must be there. */
async function fileOf(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<store.StoredFile> {
  const file = await store.fileById(db, portfolioId, id, lock);
  if (!file) throw new NotFoundError('file');
  return file;
}

async function note(trx: Db, context: Context, portfolioId: PortfolioId, id: number, act: string, after: unknown) {
  const entry = { portfolioId, at: context.now, accountId: context.account, act, object: 'file' as const };
  await writeAudit(trx, { ...entry, objectId: id, after });
  await notifyEvent(trx, { portfolioId, kind: 'picture', pageIds: [], by: context.account });
}

/** Bytes that are no picture as a file of the portfolio: a new one, the one that has them already, or in the place of one. */
export async function receiveFile(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  incoming: Pick<store.StoredFile, 'name' | 'hash' | 'ending' | 'bytes'>,
  replaces: { readonly id: number; readonly role: Role | null } | null,
): Promise<Received> {
  const known = await store.fileByHash(trx, portfolioId, incoming.hash);
  const view = async (id: number) => fileView(await fileOf(trx, portfolioId, id), placeOf(portfolioId));
  if (!replaces) {
    const made = { at: context.now, by: context.account };
    const id = known?.id ?? (await store.insertFile(trx, portfolioId, incoming, made));
    if (!known) await note(trx, context, portfolioId, id, 'new-file', { name: incoming.name });
    return { picture: null, file: await view(id), isKnown: known !== null };
  }
  await putInPlace(trx, context, portfolioId, replaces, incoming);
  return { picture: null, file: await view(replaces.id), isKnown: false };
}

/** Gives a file the bytes of what was brought in, or of another file. */
async function putInPlace(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  { id, role }: { readonly id: number; readonly role: Role | null },
  fresh: Pick<store.StoredFile, 'name' | 'hash' | 'ending' | 'bytes'>,
): Promise<void> {
  const file = await replaceable(trx, context, portfolioId, id, role);
  if (file.ending !== fresh.ending)
    throw new Refused(
      'not-accepted',
      say.isAAndIsReplacedBy(file.name, file.ending.toUpperCase(), fresh.ending.toUpperCase()),
    );
  if (file.hash === fresh.hash) return;
  await store.replaceBytes(trx, file, fresh);
  await note(trx, context, portfolioId, id, 'replace-file', { name: fresh.name });
}

/** Puts a file of the portfolio in the place of another, wherever that is used; it stays on the shelf itself. */
export function takeFile(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { from, role }: { readonly from: number; readonly role: Role | null },
): Promise<FileView> {
  return inTransaction(context.database, async (trx) => {
    await putInPlace(trx, context, portfolioId, { id, role }, await fileOf(trx, portfolioId, from));
    return fileView(await fileOf(trx, portfolioId, id), placeOf(portfolioId));
  });
}

/** A file that may be given other bytes by somebody of this role, locked. */
async function replaceable(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  role: Role | null,
): Promise<store.StoredFile> {
  const file = await fileOf(trx, portfolioId, id, 'FOR UPDATE');
  if (file.ending === 'woff2') throw new Refused('font-of-theme', say.uploadTheNewOneWhereThe);
  const { sites } = await reachOfFile(trx, portfolioId, id, context.now);
  refuseAtOnce(sites, role, say.youCanBringItInAs);
  return file;
}

/** Makes a file again what it was before it was replaced. */
export async function putBackFile(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, role }: { readonly version: number; readonly role: Role | null },
): Promise<FileView> {
  return inTransaction(context.database, async (trx) => {
    const file = await replaceable(trx, context, portfolioId, id, role);
    refuseStale(file, version, portfolioId);
    if (!file.former) throw new Refused('nothing-to-restore', say.thisFileWasNotReplaced);
    await store.replaceBytes(trx, file, file.former);
    await note(trx, context, portfolioId, id, 'put-back-file', { name: file.name });
    return fileView(await fileOf(trx, portfolioId, id), placeOf(portfolioId));
  });
}

function refuseStale(file: store.StoredFile, version: number, portfolioId: PortfolioId): void {
  if (file.version !== version)
    throw new StaleError(say.someoneElseHasChangedThisFile, fileView(file, placeOf(portfolioId)));
}

export async function setFile(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, name }: { readonly version: number; readonly name: string },
): Promise<FileView> {
  return inTransaction(context.database, async (trx) => {
    refuseStale(await fileOf(trx, portfolioId, id, 'FOR UPDATE'), version, portfolioId);
    await trx('stored_file')
      .where({ id })
      .update({ name, version: version + 1 });
    await note(trx, context, portfolioId, id, 'set-file', { name });
    return fileView(await fileOf(trx, portfolioId, id), placeOf(portfolioId));
  });
}

export async function fileUses(
  { database, now }: Context,
  portfolioId: PortfolioId,
  id: number,
  role: Role | null,
): Promise<FileUses> {
  await fileOf(database, portfolioId, id);
  const reach = await reachOfFile(database, portfolioId, id, now);
  const stock = await store.stockWithFile(database, portfolioId, id);
  return {
    ...namedUses(reach, USES_NAMED),
    pieces: stock.filter(store.isOfBlocks).map(({ id: pieceId, name, kind }) => ({ id: pieceId, name, kind })),
    themes: stock.filter(({ kind }) => kind === 'theme').map(({ id: themeId, name }) => ({ id: themeId, name })),
    refusal: refusalOf(reach.sites, role),
  };
}

export async function deleteFile(context: Context, portfolioId: PortfolioId, id: number): Promise<object> {
  await inTransaction(context.database, async (trx) => {
    const { name } = await fileOf(trx, portfolioId, id, 'FOR UPDATE');
    const { showing } = await reachOfFile(trx, portfolioId, id, context.now);
    const stock = await store.stockWithFile(trx, portfolioId, id);
    refuseUsed([...showing, ...stock].map((one) => one.name));
    await trx('stored_file').where({ id, portfolio_id: portfolioId }).delete();
    await note(trx, context, portfolioId, id, 'delete-file', { name });
  });
  return {};
}
