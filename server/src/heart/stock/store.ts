import type { PageId, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { StockContent, StockKind, StockPeriod } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface ItemRow {
  readonly id: number;
  readonly kind: StockKind;
  readonly key: string | null;
  readonly name: string;
  readonly site_id: number | null;
  readonly draft: StockContent[StockKind];
  readonly draft_version: number;
  readonly changed_at: Instant;
  readonly changed_by: string | null;
  readonly changed_by_id: number | null;
}

/** Profiles of sites are removed at infinity, which is never: migration 0029 says why. */
const IS_THERE = "coalesce(i.removed_at, 'infinity') = 'infinity'";

const ITEM = `SELECT i.id, i.kind, i.key, i.name, i.site_id, i.draft, i.draft_version, i.changed_at, a.name AS changed_by, i.changed_by AS changed_by_id
  FROM stock_item i LEFT JOIN account a ON a.id = i.changed_by`;

export function itemsOf(db: Db, portfolioId: PortfolioId): Promise<ItemRow[]> {
  return rowsOf(db, `${ITEM} WHERE i.portfolio_id = ? AND ${IS_THERE} ORDER BY i.kind, i.name, i.id`, [portfolioId]);
}

export async function itemById(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<ItemRow | null> {
  const [row] = await rowsOf<ItemRow>(db, `${ITEM} WHERE i.portfolio_id = ? AND i.id = ? AND ${IS_THERE} ${lock}`, [
    portfolioId,
    id,
  ]);
  return row ?? null;
}

/** Several of them; locked ones in the order of their identities. */
export function itemsById(db: Db, portfolioId: PortfolioId, ids: readonly number[], lock = ''): Promise<ItemRow[]> {
  return rowsOf(db, `${ITEM} WHERE i.portfolio_id = ? AND i.id = ANY(?) AND ${IS_THERE} ORDER BY i.id ${lock}`, [
    portfolioId,
    [...ids],
  ]);
}

/** Locks things of the stock with their drafts; gives the latest instant at which what they hold changed by `now`. */
export async function lockItems(
  trx: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
  now: Instant,
): Promise<Instant | null> {
  if (!ids.length) return null;
  await itemsById(trx, portfolioId, ids, 'FOR UPDATE OF i');
  const [row] = await rowsOf<{ latest: Instant | null }>(
    trx,
    'SELECT max(from_at) AS latest FROM stock_period WHERE item_id = ANY(?) AND from_at <= ?',
    [[...ids], dateOf(now)],
  );
  return row?.latest ?? null;
}

export async function itemOfKey(db: Db, portfolioId: PortfolioId, key: string): Promise<ItemRow | null> {
  const [row] = await rowsOf<ItemRow>(
    db,
    `${ITEM} WHERE i.portfolio_id = ? AND i.kind = 'theme' AND i.key = ? AND ${IS_THERE}`,
    [portfolioId, key],
  );
  return row ?? null;
}

export async function insertItem(
  trx: Db,
  portfolioId: PortfolioId,
  item: {
    readonly kind: StockKind;
    readonly key: string | null;
    readonly name: string;
    readonly siteId: number | null;
    readonly draft: StockContent[StockKind];
  },
  made: { readonly at: Instant; readonly by: number | null },
): Promise<number> {
  const { kind, key, name, siteId, draft } = item;
  const [row] = (await trx('stock_item')
    .insert({
      ...{ portfolio_id: portfolioId, kind, key, name, site_id: siteId, draft: JSON.stringify(draft) },
      ...{ changed_at: dateOf(made.at), changed_by: made.by },
    })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

export interface RevisionRow {
  readonly id: number;
  readonly item_id: number;
  readonly number: number;
  readonly content: StockContent[StockKind];
  readonly created_at: Instant;
  readonly created_by: string | null;
}

export function revisionsOf(db: Db, itemId: number): Promise<RevisionRow[]> {
  return rowsOf(
    db,
    'SELECT r.id, r.item_id, r.number, r.content, r.created_at, a.name AS created_by FROM stock_revision r LEFT JOIN account a ON a.id = r.created_by WHERE r.item_id = ? ORDER BY r.number DESC',
    [itemId],
  );
}

/** The revision that a draft would be, or is already where nothing changed since the last one. */
export async function nextRevision(
  db: Db,
  item: ItemRow,
): Promise<{ readonly id: number | null; readonly number: number }> {
  const [last] = await rowsOf<{ id: number; number: number; is_same: boolean }>(
    db,
    'SELECT id, number, content = ?::jsonb AS is_same FROM stock_revision WHERE item_id = ? ORDER BY number DESC LIMIT 1',
    [JSON.stringify(item.draft), item.id],
  );
  return last?.is_same ? last : { id: null, number: (last?.number ?? 0) + 1 };
}

/** The draft as a revision: the last one where nothing changed since. */
export async function freeze(
  trx: Db,
  portfolioId: PortfolioId,
  item: ItemRow,
  made: { readonly at: Instant; readonly by: number | null },
): Promise<{ readonly id: number; readonly number: number }> {
  const { id, number } = await nextRevision(trx, item);
  if (id !== null) return { id, number };
  const [row] = (await trx('stock_revision')
    .insert({
      ...{ portfolio_id: portfolioId, item_id: item.id, number, content: JSON.stringify(item.draft) },
      ...{ created_at: dateOf(made.at), created_by: made.by },
    })
    .returning('id')) as { id: number }[];
  return { id: row?.id ?? 0, number };
}

interface PeriodRow {
  readonly item_id: number;
  readonly revision_id: number;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}

export async function periodsOf(db: Db, itemIds: readonly number[]): Promise<Map<number, StockPeriod[]>> {
  const rows = await rowsOf<PeriodRow>(
    db,
    'SELECT item_id, revision_id, from_at, until_at FROM stock_period WHERE item_id = ANY(?) ORDER BY from_at',
    [[...itemIds]],
  );
  const found = new Map<number, StockPeriod[]>();
  for (const { item_id, revision_id, from_at, until_at } of rows) {
    const own = found.get(item_id) ?? [];
    own.push({ revisionId: revision_id, during: { from: from_at, until: until_at } });
    found.set(item_id, own);
  }
  return found;
}

/** Makes the periods of an item what they are to be from `instant` on; what lies before stays, cut where it went on. */
export async function writePeriods(
  trx: Db,
  portfolioId: PortfolioId,
  itemId: number,
  periods: readonly StockPeriod[],
  instant: Instant,
): Promise<void> {
  const stored = await rowsOf<PeriodRow & { id: number }>(trx, 'SELECT * FROM stock_period WHERE item_id = ?', [
    itemId,
  ]);
  const keep = new Set<StockPeriod>();
  for (const row of stored) {
    if (row.until_at !== null && row.until_at <= instant) {
      const same = periods.find(({ during }) => during.from === row.from_at);
      if (same) keep.add(same);
      continue;
    }
    const same = periods.find(
      ({ revisionId, during }) => revisionId === row.revision_id && during.from === row.from_at,
    );
    if (same) {
      keep.add(same);
      if (same.during.until !== row.until_at)
        await trx('stock_period')
          .where({ id: row.id })
          .update({ until_at: dateOf(same.during.until) });
    } else if (row.from_at < instant)
      await trx('stock_period')
        .where({ id: row.id })
        .update({ until_at: dateOf(instant) });
    else await trx('stock_period').where({ id: row.id }).delete();
  }
  await insertRows(
    trx,
    'stock_period',
    periods
      .filter((period) => !keep.has(period))
      .map(({ revisionId, during }) => ({
        id: null,
        portfolio_id: portfolioId,
        item_id: itemId,
        revision_id: revisionId,
        from_at: dateOf(during.from),
        until_at: dateOf(during.until),
      }))
      .map(({ id: _, ...row }) => row),
  );
}

/** Something in stock with what it holds over time. */
export interface ShelvedItem {
  readonly id: number;
  readonly kind: StockKind;
  readonly key: string | null;
  readonly siteId: number | null;
  readonly periods: readonly (StockPeriod & { readonly content: StockContent[StockKind] })[];
}

/** Everything in a portfolio's stock over time, or some of it. */
export async function stockOf(db: Db, portfolioId: PortfolioId, ids?: readonly number[]): Promise<ShelvedItem[]> {
  const rows = await rowsOf<{
    id: number;
    kind: StockKind;
    key: string | null;
    site_id: number | null;
    revision_id: number;
    from_at: Instant;
    until_at: Instant | null;
    content: StockContent[StockKind];
  }>(
    db,
    `SELECT i.id, i.kind, i.key, i.site_id, p.revision_id, p.from_at, p.until_at, r.content
    FROM stock_period p JOIN stock_item i ON i.id = p.item_id JOIN stock_revision r ON r.id = p.revision_id
    WHERE i.portfolio_id = ? ${ids ? 'AND i.id = ANY(?)' : ''} ORDER BY i.id, p.from_at`,
    ids ? [portfolioId, [...ids]] : [portfolioId],
  );
  const items = new Map<number, ShelvedItem & { periods: (StockPeriod & { content: StockContent[StockKind] })[] }>();
  for (const { id, kind, key, site_id, revision_id, from_at, until_at, content } of rows) {
    const item = items.get(id) ?? { id, kind, key, siteId: site_id, periods: [] };
    item.periods.push({ revisionId: revision_id, during: { from: from_at, until: until_at }, content });
    items.set(id, item);
  }
  return [...items.values()];
}

/** Some pieces, and all that names between { } are filled in from. */
export function piecesAndValues(
  db: Db,
  portfolioId: PortfolioId,
  pieceIds: readonly number[],
): Promise<Pick<ItemRow, 'id' | 'kind' | 'name' | 'site_id'>[]> {
  return rowsOf(
    db,
    `SELECT i.id, i.kind, i.name, i.site_id FROM stock_item i
    WHERE i.portfolio_id = ? AND (i.kind IN ('values', 'profile') OR (i.kind = 'piece' AND i.id = ANY(?))) AND ${IS_THERE}`,
    [portfolioId, [...pieceIds]],
  );
}

/** Drafts that use a piece, live or not. */
export function draftsUsing(
  db: Db,
  portfolioId: PortfolioId,
  pieceId: number,
): Promise<{ page_id: PageId; name: string }[]> {
  return rowsOf(
    db,
    `SELECT p.id AS page_id, p.name FROM draft d JOIN page p ON p.id = d.page_id WHERE d.portfolio_id = ? AND p.deleted_at IS NULL
    AND jsonb_path_exists(d.document, 'strict $.blocks[*] \\? (@.type == "piece" && @.fields.piece.id == $id)', jsonb_build_object('id', ?::int)) ORDER BY p.name`,
    [portfolioId, pieceId],
  );
}

/** The items that releases changed. */
export function itemsOfReleases(
  db: Db,
  ids: readonly ReleaseId[],
): Promise<Pick<ItemRow, 'id' | 'kind' | 'key' | 'site_id'>[]> {
  return rowsOf(
    db,
    'SELECT DISTINCT i.id, i.kind, i.key, i.site_id FROM release_stock s JOIN stock_item i ON i.id = s.item_id WHERE s.release_id = ANY(?)',
    [[...ids]],
  );
}

/** All that a thing held before or after releases, at any time. */
export async function contentsAround(
  db: Db,
  ids: readonly ReleaseId[],
  itemId: number,
): Promise<StockContent[StockKind][]> {
  const rows = await rowsOf<{ content: StockContent[StockKind] }>(
    db,
    `SELECT content FROM stock_revision WHERE item_id = ? AND id IN (
       SELECT (period ->> 'revisionId')::bigint FROM release_stock s, jsonb_array_elements(s.before || s.after) period
       WHERE s.release_id = ANY(?) AND s.item_id = ?)`,
    [itemId, [...ids], itemId],
  );
  return rows.map(({ content }) => content);
}

/** Whether all of these sites are of a portfolio. */
export async function sitesExist(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<boolean> {
  const sql = 'SELECT 1 FROM site WHERE portfolio_id = ? AND id = ANY(?)';
  return (await rowsOf(db, sql, [portfolioId, [...ids]])).length === ids.length;
}

/** How many of these pages a portfolio has or had. */
export async function pagesKnown(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<number> {
  const sql = 'SELECT count(*)::int AS count FROM page WHERE portfolio_id = ? AND id = ANY(?)';
  return (await rowsOf<{ count: number }>(db, sql, [portfolioId, [...ids]]))[0]?.count ?? 0;
}

/** Whether a portfolio has a page, a host of a domain, or any page with a label. */
export async function isThere(
  db: Db,
  portfolioId: PortfolioId,
  what: 'page' | 'domain' | 'label',
  of: string,
): Promise<boolean> {
  const conditions = {
    page: 'page WHERE deleted_at IS NULL AND id::text = ? AND portfolio_id = ?',
    domain: "host WHERE '.' || name LIKE '%.' || ? AND portfolio_id = ?",
    label: 'label WHERE name = ? AND portfolio_id = ?',
  };
  return (await rowsOf(db, `SELECT 1 FROM ${conditions[what]} LIMIT 1`, [of, portfolioId])).length > 0;
}

/** Sites whose draft has a theme, or that have it now or will. */
export function sitesWithTheme(
  db: Db,
  portfolioId: PortfolioId,
  key: string,
  now: Instant,
): Promise<{ id: number; name: string }[]> {
  return rowsOf(
    db,
    `SELECT s.id, s.name FROM site s JOIN stock_item i ON i.site_id = s.id AND i.kind = 'profile'
    WHERE s.portfolio_id = ? AND (i.draft ->> 'theme' = ? OR EXISTS (SELECT 1 FROM stock_period q JOIN stock_revision r ON r.id = q.revision_id
      WHERE q.item_id = i.id AND coalesce(q.until_at, 'infinity') > ? AND r.content ->> 'theme' = ?)) ORDER BY s.name`,
    [portfolioId, key, dateOf(now), key],
  );
}
