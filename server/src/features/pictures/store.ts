import type { Crop, PictureView } from '@domatium/contracts';
import type { PageId, PictureId, PortfolioId } from '@domatium/core/plan';
import { PART_KINDS, type PartKind } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import { pagesUsing } from '../../heart/stock/index.js';
import type { Purpose, StoredVariant } from '../../platform/readers/index.js';
export type { Purpose, StoredVariant };

export interface PictureRow {
  readonly id: PictureId;
  readonly name: string;
  readonly description: string;
  readonly width: number;
  readonly height: number;
  readonly variants: readonly StoredVariant[];
  readonly state: PictureView['state'];
  readonly progress: number;
  readonly failure: string | null;
  readonly labels: readonly string[];
  readonly version: number;
  readonly of_id: PictureId | null;
  readonly crop: Crop | null;
  readonly purpose: Purpose;
  readonly look: string | null;
  readonly original: string | null;
  readonly original_bytes: number | null;
  readonly format: string | null;
  readonly former: Former | null;
  /** Descriptions it had before it was replaced. */
  readonly former_words: readonly string[];
}

const COLUMNS =
  'id, name, description, width, height, variants, state, progress, failure, labels, version, of_id, crop, purpose, look, original, original_bytes::float8 AS original_bytes, format, former, former_words';

/** Pictures of a portfolio, some of them where those are named. */
export function picturesOf(db: Db, portfolioId: PortfolioId, ids: readonly number[] | null): Promise<PictureRow[]> {
  return rowsOf(
    db,
    `SELECT ${COLUMNS} FROM picture WHERE portfolio_id = ? AND purpose = 'page' ${ids ? 'AND id = ANY(?)' : ''} ORDER BY name, id LIMIT 5000`,
    ids ? [portfolioId, ids] : [portfolioId],
  );
}

export async function pictureById(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<PictureRow | null> {
  const [row] = await rowsOf<PictureRow>(
    db,
    `SELECT ${COLUMNS} FROM picture WHERE portfolio_id = ? AND id = ? ${lock}`,
    [portfolioId, id],
  );
  return row ?? null;
}

export async function pictureByOriginal(db: Db, portfolioId: PortfolioId, hash: string): Promise<PictureRow | null> {
  const [row] = await rowsOf<PictureRow>(
    db,
    `SELECT ${COLUMNS} FROM picture WHERE portfolio_id = ? AND original = ? AND of_id IS NULL ORDER BY is_twin, id LIMIT 1`,
    [portfolioId, hash],
  );
  return row ?? null;
}

export interface Original {
  readonly hash: string;
  readonly bytes: number;
  readonly format: string;
  readonly width: number;
  readonly height: number;
}

/** What a picture was before it was replaced: with its parts by their identities, and how it was described. */
export interface Former extends Original {
  readonly crops?: Readonly<Record<string, Crop>>;
  readonly description?: string;
}

/** What a picture is made from; `null` where that is not here. */
export function originalOf({ original, original_bytes, format, width, height }: PictureRow): Original | null {
  return original === null ? null : { hash: original, bytes: original_bytes ?? 0, format: format ?? '', width, height };
}

const columnsOf = ({ hash, bytes, format, width, height }: Original) => ({
  original: hash,
  original_bytes: bytes,
  format,
  width,
  height,
});

export async function insertPicture(
  trx: Db,
  portfolioId: PortfolioId,
  name: string,
  original: Original,
  made: { readonly at: Instant; readonly by: number | null },
): Promise<number> {
  const [row] = (await trx('picture')
    .insert({
      portfolio_id: portfolioId,
      name,
      ...columnsOf(original),
      variants: '[]',
      state: 'waiting',
      progress: 0,
      created_at: dateOf(made.at),
      created_by: made.by,
    })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** The parts of a picture, by their identities. */
export async function cropsOf(db: Db, id: number): Promise<Record<string, Crop>> {
  const rows = await rowsOf<{ id: number; crop: Crop }>(
    db,
    'SELECT id, crop FROM picture WHERE of_id = ? AND crop IS NOT NULL',
    [id],
  );
  return Object.fromEntries(rows.map((row) => [row.id, row.crop]));
}

/**
 * Gives a picture another original, which another picture may have too; it and all parts of it are made anew, and shown as
 * they were until then. Parts keep their proportion. `former` is kept to be put back.
 */
export async function replaceOriginal(
  trx: Db,
  id: number,
  original: Original,
  former: Former | null,
  crops: Readonly<Record<string, Crop>>,
): Promise<void> {
  const again = { ...columnsOf(original), state: 'waiting', progress: 0, failure: null, failures: 0, look: null };
  await trx('picture')
    .where({ id })
    .update({
      ...again,
      former: former && JSON.stringify(former),
      version: trx.raw('version + 1'),
      is_twin: trx.raw(
        'EXISTS (SELECT FROM picture o WHERE o.portfolio_id = picture.portfolio_id AND o.original = ? AND o.of_id IS NULL AND o.id <> picture.id)',
        [again.original],
      ),
    });
  await trx.raw(
    `UPDATE picture p SET state = 'waiting', progress = 0, failure = NULL, failures = 0, original = ?, original_bytes = ?, format = ?,
      crop = c.crop,
      width = CASE WHEN c.crop IS NULL THEN p.width ELSE greatest(1, round((c.crop->>'width')::numeric * ? / 1000))::int END,
      height = CASE WHEN c.crop IS NULL THEN p.height ELSE greatest(1, round((c.crop->>'height')::numeric * ? / 1000))::int END
    FROM (SELECT o.id, k.value AS crop FROM picture o LEFT JOIN jsonb_each(?::jsonb) k ON k.key = o.id::text WHERE o.of_id = ?) c
    WHERE p.id = c.id`,
    [again.original, again.original_bytes, again.format, again.width, again.height, JSON.stringify(crops), id],
  );
}

/** A part of a picture, or a form of it for a purpose; the one that is there already where there is one. */
export async function derive(
  trx: Db,
  source: PictureRow,
  portfolioId: PortfolioId,
  form: { readonly purpose: Purpose; readonly crop: Crop | null; readonly width: number; readonly height: number },
  made: { readonly at: Instant; readonly by: number | null },
): Promise<number> {
  const [known] = await rowsOf<{ id: number }>(
    trx,
    'SELECT id FROM picture WHERE of_id = ? AND purpose = ? AND crop IS NOT DISTINCT FROM ?::jsonb LIMIT 1',
    [source.id, form.purpose, form.crop && JSON.stringify(form.crop)],
  );
  if (known) return known.id;
  const { name, description, original, original_bytes, format } = source;
  const [row] = (await trx('picture')
    .insert({
      ...{ portfolio_id: portfolioId, name, description, original, original_bytes, format },
      ...form,
      crop: form.crop && JSON.stringify(form.crop),
      of_id: source.id,
      variants: '[]',
      state: 'waiting',
      progress: 0,
      created_at: dateOf(made.at),
      created_by: made.by,
    })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** A page with where it shows something: in its draft, or in a revision that is live or planned. */
export interface Showing {
  readonly page_id: PageId;
  readonly name: string;
  readonly in_draft: boolean;
  readonly in_plan: boolean;
}

/** Pages whose draft, or whose live or planned revision, shows one of these pictures. */
export function pagesShowing(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
  now: Instant,
): Promise<Showing[]> {
  const shows = (column: string) =>
    `(EXISTS (SELECT 1 FROM jsonb_path_query(${column}, 'strict $.**.pictureId') AS v WHERE v::text = ANY(?)) OR ${column} #>> '{metadata,sharePictureId}' = ANY(?) OR ${column} #>> '{metadata,iconPictureId}' = ANY(?))`;
  const texts = ids.map(String);
  return rowsOf(
    db,
    `SELECT * FROM (SELECT p.id AS page_id, p.name,
      coalesce((SELECT ${shows('d.document')} FROM draft d WHERE d.page_id = p.id), false) AS in_draft,
      EXISTS (SELECT 1 FROM period q JOIN revision r ON r.id = q.revision_id WHERE q.page_id = p.id AND coalesce(q.until_at, 'infinity') > ? AND ${shows('r.document')}) AS in_plan
    FROM page p WHERE p.portfolio_id = ? AND p.deleted_at IS NULL) u WHERE in_draft OR in_plan ORDER BY name`,
    [texts, texts, texts, dateOf(now), texts, texts, texts, portfolioId],
  );
}

const OF_BLOCKS = ['piece', ...PART_KINDS];

/** Something of the stock that is made of blocks. */
export interface OfBlocks {
  readonly id: number;
  readonly name: string;
  readonly kind: 'piece' | PartKind;
}

/** Pieces, headers, footers and bands whose draft, or whose current or planned revision, shows one of these pictures. */
export function piecesShowing(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<OfBlocks[]> {
  const shows = (column: string) =>
    `EXISTS (SELECT 1 FROM jsonb_path_query(${column}, 'strict $.**.pictureId') AS v WHERE v::text = ANY(?))`;
  const texts = ids.map(String);
  return rowsOf(
    db,
    `SELECT i.id, i.name, i.kind FROM stock_item i WHERE i.portfolio_id = ? AND i.kind = ANY(?) AND i.removed_at IS NULL AND (${shows('i.draft')}
      OR EXISTS (SELECT 1 FROM stock_period q JOIN stock_revision r ON r.id = q.revision_id WHERE q.item_id = i.id AND ${shows('r.content')}))
    ORDER BY name`,
    [portfolioId, OF_BLOCKS, texts, texts],
  );
}

/** Pages that show one of these. */
export async function pagesUsingPieces(
  db: Db,
  portfolioId: PortfolioId,
  some: readonly OfBlocks[],
  now: Instant,
): Promise<PageId[]> {
  const pages = new Set<PageId>();
  for (const { id, kind } of some)
    for (const { page_id } of await pagesUsing(db, portfolioId, { id, kind, key: null, site_id: null }, now))
      pages.add(page_id);
  return [...pages];
}

/** A profile that holds one of some pictures: in its draft, or as it holds now or will. */
const PROFILE_SHOWS = `i.kind = 'profile' AND EXISTS (SELECT 1 FROM (
    SELECT i.draft AS content UNION ALL SELECT r.content FROM stock_period q JOIN stock_revision r ON r.id = q.revision_id
    WHERE q.item_id = i.id AND coalesce(q.until_at, 'infinity') > ?) c WHERE (c.content ->> ?)::bigint = ANY(?))`;

/** Sites on which visitors see, or will see, one of these pages, or whose icon or share picture is one of these pictures. */
export function sitesReached(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly number[],
  pictureIds: readonly number[],
  now: Instant,
): Promise<{ name: string; approvals: number }[]> {
  const at = dateOf(now);
  return rowsOf(
    db,
    `SELECT name, approvals FROM site WHERE portfolio_id = ? AND id IN (
      SELECT i.site_id FROM stock_item i WHERE ${PROFILE_SHOWS} UNION SELECT i.site_id FROM stock_item i WHERE ${PROFILE_SHOWS}
      UNION SELECT site_id FROM placement WHERE page_id = ANY(?) AND (until_at IS NULL OR until_at > ?)) ORDER BY name`,
    [portfolioId, at, 'iconId', [...pictureIds], at, 'shareId', [...pictureIds], pageIds, at],
  );
}

/** Sites whose icon or share picture a picture is, was planned to be, or is in a draft. */
export function sitesShowing(
  db: Db,
  portfolioId: PortfolioId,
  pictureId: number,
  now: Instant,
): Promise<{ id: number; name: string; is_icon: boolean; is_share: boolean }[]> {
  const [at, ids] = [dateOf(now), [pictureId]];
  return rowsOf(
    db,
    `SELECT * FROM (SELECT s.id, s.name, ${PROFILE_SHOWS} AS is_icon, ${PROFILE_SHOWS} AS is_share
    FROM site s JOIN stock_item i ON i.site_id = s.id AND i.kind = 'profile' WHERE s.portfolio_id = ?) u WHERE is_icon OR is_share ORDER BY name`,
    [at, 'iconId', ids, at, 'shareId', ids, portfolioId],
  );
}

/** The crops and other forms of pictures, with the pictures themselves. */
export async function withForms(db: Db, ids: readonly number[]): Promise<number[]> {
  const rows = await rowsOf<{ id: number }>(db, 'SELECT id FROM picture WHERE of_id = ANY(?)', [ids]);
  return [...ids, ...rows.map(({ id }) => id)];
}

/** Pictures that wait to be made, the oldest first. */
export function waiting(db: Db): Promise<{ id: number }[]> {
  return rowsOf(db, "SELECT id FROM picture WHERE state = 'waiting' ORDER BY id LIMIT 50");
}

export async function waitingPicture(db: Db, id: number): Promise<(PictureRow & { portfolio_id: PortfolioId }) | null> {
  const [row] = await rowsOf<PictureRow & { portfolio_id: PortfolioId }>(
    db,
    `SELECT portfolio_id, ${COLUMNS} FROM picture WHERE id = ? AND state = 'waiting'`,
    [id],
  );
  return row ?? null;
}

/** Whether anything that was made or chosen anew is not on its pages yet; a picture and its crops come on them together, so nothing waits to be made. */
export async function hasToPublish(db: Db): Promise<boolean> {
  const rows = await rowsOf(
    db,
    `SELECT WHERE NOT EXISTS (SELECT FROM picture WHERE state = 'waiting')
     AND (EXISTS (SELECT FROM picture WHERE must_publish) OR EXISTS (SELECT FROM stored_file WHERE must_publish)
       OR EXISTS (SELECT FROM site WHERE must_publish))`,
  );
  return rows.length > 0;
}

/** Keeps what was made, unless the original was replaced meanwhile. */
export async function noteMade(
  db: Db,
  { id, original }: PictureRow,
  made: {
    readonly variants: readonly StoredVariant[];
    readonly look: string | null;
    readonly width: number;
    readonly height: number;
  },
): Promise<void> {
  const { variants, ...rest } = made;
  await db('picture')
    .where({ id, original })
    .update({
      ...rest,
      variants: JSON.stringify(variants),
      state: 'ready',
      progress: 1,
      failure: null,
      must_publish: true,
    });
}

export async function noteProgress(db: Db, id: number, progress: number): Promise<void> {
  await db('picture').where({ id }).update({ progress });
}

/** Tried so often: a worker that dies over a picture must not die over it for ever. */
export const MOST_FAILURES = 3;

export async function noteTry(db: Db, id: number): Promise<void> {
  await db('picture').where({ id }).increment('failures', 1);
}

export async function takeBackTry(db: Db, id: number): Promise<void> {
  await db('picture').where({ id }).decrement('failures', 1);
}

export async function failuresOf(db: Db, id: number): Promise<number> {
  const [row] = await rowsOf<{ failures: number }>(db, 'SELECT failures FROM picture WHERE id = ?', [id]);
  return row?.failures ?? 0;
}

export async function noteFailed(db: Db, id: number, failure: string): Promise<void> {
  await db('picture').where({ id }).update({ state: 'failed', failure });
}

/** Pictures that were made and not published yet; `shown` is the one that pages refer to. */
export function toPublish(db: Db): Promise<{ id: PictureId; shown: PictureId; portfolio_id: PortfolioId }[]> {
  return rowsOf(
    db,
    "SELECT id, portfolio_id, CASE WHEN purpose = 'page' THEN id ELSE of_id END AS shown FROM picture WHERE must_publish ORDER BY id LIMIT 50",
  );
}

/** Pages on sites whose icon or share picture was made just now, of these pictures. */
export function pagesOfSitesShowing(
  db: Db,
  pictureIds: readonly number[],
  now: Instant,
): Promise<{ portfolio_id: PortfolioId; page_id: PageId }[]> {
  const [at, ids] = [dateOf(now), [...pictureIds]];
  return rowsOf(
    db,
    `SELECT DISTINCT i.portfolio_id, q.page_id FROM stock_item i
    JOIN placement l ON l.site_id = i.site_id AND coalesce(l.until_at, 'infinity') > ?
    JOIN period q ON q.page_id = l.page_id AND q.during && l.during AND coalesce(q.until_at, 'infinity') > ?
    WHERE (${PROFILE_SHOWS}) OR (${PROFILE_SHOWS})`,
    [at, at, at, 'iconId', ids, at, 'shareId', ids],
  );
}

export async function notePublished(db: Db, ids: readonly number[]): Promise<void> {
  await db.raw('UPDATE picture SET must_publish = false WHERE id = ANY(?)', [[...ids]]);
}

/** Bytes of all that a portfolio brought in and what was made of it. */
export async function bytesOf(db: Db, portfolioId: PortfolioId): Promise<number> {
  const [row] = await rowsOf<{ bytes: number }>(
    db,
    `SELECT (SELECT coalesce(sum(coalesce(original_bytes, 0) + (SELECT coalesce(sum((v ->> 'bytes')::float8), 0) FROM jsonb_array_elements(variants) v)), 0) FROM picture WHERE portfolio_id = ?)::float8
     + (SELECT coalesce(sum(bytes), 0) FROM stored_file WHERE portfolio_id = ?)::float8 AS bytes`,
    [portfolioId, portfolioId],
  );
  return row?.bytes ?? 0;
}

/** Describes a picture anew, as it is another one now; where pages say what it was described as before, they say this. */
export async function redescribe(
  trx: Db,
  { id, description, former_words }: PictureRow,
  wanted: string,
): Promise<void> {
  const words = [...new Set([...former_words, ...(description ? [description] : [])])].filter((one) => one !== wanted);
  await trx('picture').where({ id }).orWhere({ of_id: id }).update({ description: wanted, former_words: words });
}
