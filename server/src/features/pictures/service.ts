import type { Readable } from 'node:stream';
import {
  USES_NAMED,
  type Crop,
  type PictureUses,
  type PictureView,
  type Received,
  type Role,
} from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { BlobStore } from '@domatium/storage';
import type { Response } from 'express';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { NotFoundError, Refused, StaleError } from '../../platform/errors.js';
import type { Reader } from '../../platform/readers/index.js';
import { takeIn } from './incoming.js';
import { placeOf, receiveFile } from './files.js';
import { namedUses, reachOfPictures, refusalOf, refuseAtOnce, refuseUsed } from './judge.js';
import { keptCrop } from './crops.js';
import { areaOf, lookDistance } from '../../platform/readers/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pictures';

/** As many bits may differ between two pictures that look much the same. */
const ALIKE = 5;

export const endingOf = ({ ending }: store.StoredVariant) => ending ?? 'webp';

const broughtOf = (one: store.Original | null) => one && { bytes: one.bytes, format: one.format };

function viewOf(row: store.PictureRow, place: string, all: readonly store.PictureRow[]): PictureView {
  const { id, name, description, width, height, state, progress, failure, labels, version, crop, look } = row;
  const isAlike = (other: store.PictureRow) =>
    other.id !== id && !!look && !!other.look && !other.of_id && !row.of_id && lookDistance(look, other.look) <= ALIKE;
  return {
    ...{ id, name, description, width, height, state, progress, failure, labels, version, crop },
    ofId: row.of_id,
    similar: all.filter(isAlike).map((other) => other.id),
    original: broughtOf(store.originalOf(row)),
    former: broughtOf(row.former),
    formerWords: row.former_words,
    variants: row.variants.map((variant) => ({
      width: variant.width,
      src: `${place}/${variant.hash}.${endingOf(variant)}`,
      ...(variant.avif ? { avif: `${place}/${variant.avif}.avif` } : {}),
      ...(variant.bytes ? { bytes: variant.bytes } : {}),
    })),
  };
}

/** Pictures of a portfolio with the addresses of their files below a place; some of them where those are named. */
export async function picturesWith(
  db: Db,
  portfolioId: PortfolioId,
  place: string = placeOf(portfolioId),
  ids: readonly number[] | null = null,
): Promise<PictureView[]> {
  const rows = await store.picturesOf(db, portfolioId, ids);
  return rows.map((row) => viewOf(row, place, rows));
}

async function pictureView(db: Db, portfolioId: PortfolioId, id: number): Promise<PictureView> {
  const rows = await store.picturesOf(db, portfolioId, null);
  const row = rows.find((one) => one.id === id);
  if (!row) throw new NotFoundError('picture');
  return viewOf(row, placeOf(portfolioId), rows);
}

/** What is brought in, and whose place it takes: of a picture, of a file, or of nothing. */
export interface Incoming {
  readonly name: string;
  readonly replaces: number | null;
  readonly replacesFile: number | null;
  /** How a picture that takes another one's place is described; as that one where it is left out. */
  readonly description?: string | undefined;
  readonly role: Role | null;
  readonly stream: Readable;
}

/** What takes in files: who reads them, where they lie, and how many bytes a portfolio may have. */
export interface Receiving {
  readonly reader: Reader;
  readonly blobs: BlobStore;
  readonly quota?: number;
}

/** Refuses what finds no room; bytes that came and are refused are swept with those that nothing refers to. */
async function refuseBeyond(db: Db, portfolioId: PortfolioId, quota: number, coming = 1): Promise<void> {
  const used = await store.bytesOf(db, portfolioId);
  if (used + coming <= quota) return;
  const gigabytes = (bytes: number) => (bytes / 1024 ** 3).toFixed(bytes < 1024 ** 3 ? 3 : 1);
  throw new Refused(
    'no-room',
    say.theFilesOfThisPortfolioHave(
      gigabytes(used),
      gigabytes(quota),
      coming > 1 ? say.thisOneHas(gigabytes(coming)) : '',
    ),
  );
}

/** Takes a picture or file in. What is here already, byte for byte, is given back as it is. */
export async function receive(
  context: Context,
  { reader, blobs, quota = Infinity }: Receiving,
  portfolioId: PortfolioId,
  { name, replaces, replacesFile, description, role, stream }: Incoming,
): Promise<Received> {
  await refuseBeyond(context.database, portfolioId, quota);
  const incoming = await takeIn(reader, blobs, stream);
  await refuseBeyond(
    context.database,
    portfolioId,
    quota,
    incoming.kind === 'file' ? incoming.bytes : incoming.original.bytes,
  );
  const made = { at: context.now, by: context.account };
  return inTransaction(context.database, async (trx) => {
    if (incoming.kind === 'file') {
      if (replaces) throw new Refused('not-accepted', say.aPictureCanOnlyBeReplaced);
      const { hash, bytes, ending } = incoming;
      const place = replacesFile === null ? null : { id: replacesFile, role };
      return receiveFile(trx, context, portfolioId, { name, hash, bytes, ending }, place);
    }
    if (replacesFile) throw new Refused('not-accepted', say.aFileCanOnlyBeReplaced);
    const { original } = incoming;
    if (replaces) {
      await putInPlace(trx, context, portfolioId, { id: replaces, role, description }, { ...original, name });
      return { picture: await pictureView(trx, portfolioId, replaces), file: null, isKnown: false };
    }
    const known = await store.pictureByOriginal(trx, portfolioId, original.hash);
    const id = known?.id ?? (await store.insertPicture(trx, portfolioId, name, original, made));
    if (!known) await note(trx, context, portfolioId, id, 'new-picture', { name });
    return { picture: await pictureView(trx, portfolioId, id), file: null, isKnown: known !== null };
  });
}

/** Whose place is taken, by somebody of a role; described as before where nothing else is said. */
interface Place {
  readonly id: number;
  readonly role: Role | null;
  readonly description?: string | undefined;
}

/** Gives a picture the original that was brought in, or that of another picture. */
async function putInPlace(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  { id, role, description }: Place,
  original: store.Original & { readonly name: string },
): Promise<void> {
  const row = await replaceable(trx, context, portfolioId, id, role);
  if (row.original === original.hash) return;
  // What visitors see is what is put back: of one that is not made yet they see the one before.
  const crops = await store.cropsOf(trx, id);
  const was = store.originalOf(row);
  const former = row.state === 'ready' ? was && { ...was, crops, description: row.description } : row.former;
  const kept = Object.entries(crops).map(([key, crop]) => [key, keptCrop(crop, row, original)] as const);
  await store.replaceOriginal(trx, id, original, former, Object.fromEntries(kept));
  if (description !== undefined) await store.redescribe(trx, row, description);
  await note(trx, context, portfolioId, id, 'replace-picture', { name: original.name });
}

/** Puts a picture of the portfolio in the place of another, wherever that is used; it stays on the shelf itself. */
export function takePicture(
  context: Context,
  portfolioId: PortfolioId,
  place: Place,
  from: number,
): Promise<PictureView> {
  return inTransaction(context.database, async (trx) => {
    const other = await sourceOf(trx, portfolioId, from);
    const original = store.originalOf(other);
    if (original) await putInPlace(trx, context, portfolioId, place, { ...original, name: other.name });
    return pictureView(trx, portfolioId, place.id);
  });
}

/** A picture that may be given another original by somebody of this role, locked. */
async function replaceable(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  role: Role | null,
): Promise<store.PictureRow> {
  const row = await store.pictureById(trx, portfolioId, id, 'FOR UPDATE');
  if (!row) throw new NotFoundError('picture');
  const { sites } = await reachOfPictures(trx, portfolioId, [id], context.now);
  refuseAtOnce(sites, role, say.youCanBringItInAsToo);
  return row;
}

/** Makes a picture again what it was before it was replaced, wherever it is used. */
export async function putBack(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  { version, role }: { readonly version: number; readonly role: Role | null },
): Promise<PictureView> {
  return inTransaction(context.database, async (trx) => {
    const row = await replaceable(trx, context, portfolioId, id, role);
    if (row.version !== version)
      throw new StaleError(say.someoneElseHasChangedThisPicture, await pictureView(trx, portfolioId, id));
    if (!row.former) throw new Refused('nothing-to-restore', say.thisPictureWasNotReplacedBy);
    const { former } = row;
    const crops = await store.cropsOf(trx, id);
    const was = store.originalOf(row);
    const kept = Object.entries(crops).map(
      ([key, crop]) => [key, former.crops?.[key] ?? keptCrop(crop, row, former)] as const,
    );
    const next = row.state === 'failed' ? null : was && { ...was, crops, description: row.description };
    await store.replaceOriginal(trx, id, former, next, Object.fromEntries(kept));
    if (former.description !== undefined) await store.redescribe(trx, row, former.description);
    await note(trx, context, portfolioId, id, 'put-back-picture', { name: row.name });
    return pictureView(trx, portfolioId, id);
  });
}

async function note(trx: Db, context: Context, portfolioId: PortfolioId, id: number, act: string, after: unknown) {
  const entry = { portfolioId, at: context.now, accountId: context.account, act, object: 'picture' as const };
  await writeAudit(trx, { ...entry, objectId: id, after });
  await notifyEvent(trx, { portfolioId, kind: 'picture', pageIds: [], by: context.account });
}

export async function setPicture(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  change: { version: number; name: string; description: string; labels: readonly string[] },
): Promise<PictureView> {
  return inTransaction(context.database, async (trx) => {
    const row = await store.pictureById(trx, portfolioId, id, 'FOR UPDATE');
    if (!row) throw new NotFoundError('picture');
    if (row.version !== change.version)
      throw new StaleError(say.someoneElseHasChangedThisPicture, await pictureView(trx, portfolioId, id));
    const { version, ...rest } = change;
    await trx('picture')
      .where({ id })
      .update({ ...rest, version: version + 1 });
    await note(trx, context, portfolioId, id, 'set-picture', rest);
    return pictureView(trx, portfolioId, id);
  });
}

/** A part of a picture as a picture of its own, made from the same original. */
export async function crop(context: Context, portfolioId: PortfolioId, id: number, area: Crop): Promise<PictureView> {
  return inTransaction(context.database, async (trx) => {
    const source = await sourceOf(trx, portfolioId, id);
    const { width, height } = areaOf(area, source);
    const { x, y, width: w, height: h } = area;
    const form = { purpose: 'page' as const, crop: { x, y, width: w, height: h }, width, height };
    const made = await store.derive(trx, source, portfolioId, form, { at: context.now, by: context.account });
    await note(trx, context, portfolioId, made, 'crop-picture', area);
    return pictureView(trx, portfolioId, made);
  });
}

/** The picture that was brought in: crops of crops are crops of it. */
async function sourceOf(trx: Db, portfolioId: PortfolioId, id: number): Promise<store.PictureRow> {
  const row = await store.pictureById(trx, portfolioId, id);
  const source = row?.of_id ? await store.pictureById(trx, portfolioId, row.of_id) : row;
  if (!source) throw new NotFoundError('picture');
  if (!source.original) throw new Refused('no-original', say.thisPictureCameFromAnother);
  return source;
}

export async function pictureUses(
  { database, now }: Context,
  portfolioId: PortfolioId,
  id: number,
  role: Role | null,
): Promise<PictureUses> {
  if (!(await store.pictureById(database, portfolioId, id))) throw new NotFoundError('picture');
  const reach = await reachOfPictures(database, portfolioId, [id], now);
  const faces = await store.sitesShowing(database, portfolioId, id, now);
  return {
    ...namedUses(reach, USES_NAMED),
    pieces: await store.piecesShowing(database, portfolioId, await store.withForms(database, [id])),
    sites: faces.flatMap(({ id: siteId, name, is_icon, is_share }) => [
      ...(is_icon ? [{ siteId, name, as: 'icon' as const }] : []),
      ...(is_share ? [{ siteId, name, as: 'share' as const }] : []),
    ]),
    refusal: refusalOf(reach.sites, role),
  };
}

export async function deletePicture(context: Context, portfolioId: PortfolioId, id: number): Promise<object> {
  const { database, now } = context;
  if (!(await store.pictureById(database, portfolioId, id))) throw new NotFoundError('picture');
  const { showing } = await reachOfPictures(database, portfolioId, [id], now);
  const pieces = await store.piecesShowing(database, portfolioId, await store.withForms(database, [id]));
  const faces = await store.sitesShowing(database, portfolioId, id, now);
  const users = [...showing, ...pieces, ...faces].map(({ name }) => name);
  refuseUsed(users);
  await inTransaction(context.database, async (trx) => {
    await trx('picture').where({ of_id: id }).delete();
    await trx('picture').where({ id, portfolio_id: portfolioId }).delete();
    await note(trx, context, portfolioId, id, 'delete-picture', null);
  });
  return {};
}

const FORMS = { icon: { width: 180, height: 180 }, share: { width: 1200, height: 630 } } as const;

/** Makes sure of a picture in the form in which pages are shared, or known by a small icon; gives that form. */
export async function faceForm(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  purpose: 'icon' | 'share',
): Promise<number> {
  const form = { purpose, crop: null, ...FORMS[purpose] };
  const made = { at: context.now, by: context.account };
  return store.derive(trx, await sourceOf(trx, portfolioId, id), portfolioId, form, made);
}

/** The form in which pages are shared, of a picture nobody chose for that: where it can be made. */
export async function firstFaceForm(trx: Db, context: Context, portfolioId: PortfolioId, id: number): Promise<void> {
  const row = await store.pictureById(trx, portfolioId, id);
  const source = row?.of_id ? await store.pictureById(trx, portfolioId, row.of_id) : row;
  if (source?.original) await faceForm(trx, context, portfolioId, id, 'share');
}

/** Answers with a public file of the portfolio, named `HASH.ending`; gives whether there is one. */
export async function sendPicture(
  db: Db,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  file: string,
  response: Response,
): Promise<boolean> {
  const [hash = '', ending = ''] = file.split('.');
  const named = (key: string) => JSON.stringify([{ [key]: hash }]);
  const known = await rowsOf(
    db,
    `SELECT 1 FROM picture WHERE portfolio_id = ? AND (variants @> ?::jsonb OR variants @> ?::jsonb)
    UNION ALL SELECT 1 FROM stored_file WHERE portfolio_id = ? AND hash = ? LIMIT 1`,
    [portfolioId, named('hash'), named('avif'), portfolioId, hash],
  );
  const bytes = known.length ? await blobs.read('files', hash) : null;
  if (!bytes) return false;
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
  if (ending === 'svg')
    response.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox");
  response.type(ending).send(bytes);
  return true;
}
