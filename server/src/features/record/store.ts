import type { PageId, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { RecordKind } from '@domatium/core/words';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

export interface RecordRow {
  readonly id: number;
  /** The first of its entries: those before it are earlier. */
  readonly first: number;
  readonly at: Instant;
  readonly by: string | null;
  readonly act: string;
  readonly object: string;
  readonly object_id: number;
  readonly before: Readonly<Record<string, unknown>> | null;
  readonly after: Readonly<Record<string, unknown>> | null;
  readonly release_id: ReleaseId | null;
  readonly count: number;
}

export interface Filters {
  readonly by?: number | undefined;
  readonly kind?: RecordKind | undefined;
  readonly page?: number | undefined;
  readonly from?: Instant | undefined;
  /** Exclusive. */
  readonly until?: Instant | undefined;
  readonly before?: number | undefined;
  /** Whether what concerns people is left out. */
  readonly isWithoutPeople?: boolean;
}

const OBJECTS: Readonly<Record<Exclude<RecordKind, 'visitors'>, readonly string[]>> = {
  drafts: ['draft'],
  pages: ['page'],
  prepared: ['prepared'],
  stock: ['stock', 'site', 'picture', 'file'],
  remarks: ['review'],
  tasks: ['task'],
  campaigns: ['campaign'],
  people: ['people'],
};
/** Of what kind an entry is. */
export const kindOf = ({ object, release_id }: Pick<RecordRow, 'object' | 'release_id'>): RecordKind =>
  release_id !== null
    ? 'visitors'
    : ((Object.entries(OBJECTS).find(([, objects]) => objects.includes(object))?.[0] as RecordKind | undefined) ??
      'pages');

/** Rows looked through for one part of the record: what belongs together was written together. */
const LOOKED_THROUGH = 4000;

/**
 * Acts, the newest first: what was done to many at once is one, and so are the savings of one draft within an hour by one
 * person.
 */
export async function recorded(
  db: Db,
  portfolioId: PortfolioId,
  filters: Filters,
  most: number,
): Promise<{ rows: RecordRow[]; looked: number; last: number | null }> {
  const conditions = ['u.portfolio_id = :portfolioId'];
  const { by, kind, page, from, until, before } = filters;
  if (by !== undefined) conditions.push('u.account_id = :by');
  if (kind === 'visitors') conditions.push('u.release_id IS NOT NULL');
  else if (kind) conditions.push('u.release_id IS NULL AND u.object = ANY(:objects)');
  if (page !== undefined) conditions.push("u.object IN ('page', 'draft') AND u.object_id = :page");
  if (from !== undefined) conditions.push('u.at >= :from');
  if (until !== undefined) conditions.push('u.at < :until');
  if (before !== undefined) conditions.push('u.id < :before');
  if (filters.isWithoutPeople) conditions.push("u.object <> 'people'");
  const bindings = {
    ...{ portfolioId, by: by ?? 0, page: page ?? 0, before: before ?? 0, most, looked: LOOKED_THROUGH },
    objects: kind && kind !== 'visitors' ? [...OBJECTS[kind]] : [],
    from: dateOf(from ?? null),
    until: dateOf(until ?? null),
  };
  const result: unknown = await db.raw(
    `WITH seen AS (SELECT u.id, u.at, u.account_id, u.act, u.object, u.object_id, u.release_id,
      CASE WHEN u.release_id IS NULL THEN u.before END AS before, CASE WHEN u.release_id IS NULL THEN u.after END AS after
      FROM audit u WHERE ${conditions.join(' AND ')} ORDER BY u.id DESC LIMIT :looked)
    SELECT g.id, g.first, g.count, g.looked, g.last, s.at, s.act, s.object, s.object_id, s.before, s.after, s.release_id, a.name AS by
    FROM (SELECT max(id) AS id, min(id) AS first, count(*)::int AS count,
        (SELECT count(*) FROM seen)::int AS looked, (SELECT min(id) FROM seen) AS last
      FROM seen GROUP BY account_id, act, CASE WHEN release_id IS NULL THEN object END, release_id,
        CASE WHEN release_id IS NULL THEN CASE act WHEN 'save-draft' THEN date_trunc('hour', at) ELSE at END END,
        CASE WHEN act = 'save-draft' THEN object_id END
      ORDER BY max(id) DESC LIMIT :most) g
    JOIN seen s ON s.id = g.id LEFT JOIN account a ON a.id = s.account_id ORDER BY g.id DESC`,
    bindings as never,
  );
  const { rows } = result as { rows: (RecordRow & { looked: number; last: number })[] };
  return { rows, looked: rows[0]?.looked ?? 0, last: rows[0]?.last ?? null };
}
export const LOOKED = LOOKED_THROUGH;

/** Names of things by kind and identity, as they are now; removed ones too, as far as they have one. */
export async function namesFor(
  db: Db,
  portfolioId: PortfolioId,
  rows: readonly RecordRow[],
): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  const idsOf = (...objects: string[]) => [
    ...new Set(rows.filter(({ object }) => objects.includes(object)).map(({ object_id }) => object_id)),
  ];
  const read = async (kind: string, table: string, ids: readonly number[], more = 'portfolio_id = ?') => {
    if (!ids.length) return;
    const found = await rowsOf<{ id: number; name: string }>(
      db,
      `SELECT id, name FROM ${table} WHERE ${more} AND id = ANY(?)`,
      [portfolioId, ids],
    );
    for (const { id, name } of found) names.set(`${kind} ${id}`, name);
  };
  await read('page', 'page', idsOf('page', 'draft'));
  await read('campaign', 'campaign', idsOf('campaign'));
  await read('stock', 'stock_item', idsOf('stock'));
  await read('picture', 'picture', idsOf('picture'));
  await read('file', 'stored_file', idsOf('file'));
  await read('prepared', 'prepared_release', idsOf('prepared'));
  const people = idsOf('people');
  await read('people', 'account', people, 'id IN (SELECT account_id FROM membership WHERE portfolio_id = ?)');
  return names;
}

/** All campaigns and people that entries may name. */
export async function namesOfArranged(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ campaigns: Map<number, string>; people: Map<number, string> }> {
  const campaigns = await rowsOf<{ id: number; name: string }>(
    db,
    'SELECT id, name FROM campaign WHERE portfolio_id = ?',
    [portfolioId],
  );
  const people = await rowsOf<{ id: number; name: string }>(
    db,
    `SELECT id, name FROM account WHERE id IN (SELECT account_id FROM membership WHERE portfolio_id = ? UNION SELECT owner_id FROM page WHERE portfolio_id = ?
      UNION SELECT account_id FROM audit WHERE portfolio_id = ? AND object = 'page' AND act = 'arrange')`,
    [portfolioId, portfolioId, portfolioId],
  );
  const mapOf = (rows: { id: number; name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]));
  return { campaigns: mapOf(campaigns), people: mapOf(people) };
}

export interface ArrangedEntry {
  readonly page_id: PageId;
  readonly before: { readonly campaignId: number | null; readonly ownerId: number | null; readonly labels: string[] };
  readonly after: { readonly campaignId: number | null; readonly ownerId: number | null; readonly labels: string[] };
}

/** What one act gave pages as owner, campaign and labels: all pages of the act that an entry belongs to. */
export function arrangedBy(db: Db, portfolioId: PortfolioId, entryId: number): Promise<ArrangedEntry[]> {
  return rowsOf(
    db,
    `SELECT u.object_id AS page_id, u.before, u.after FROM audit e JOIN audit u ON u.portfolio_id = e.portfolio_id AND u.at = e.at AND u.act = e.act
      AND u.object = e.object AND u.account_id IS NOT DISTINCT FROM e.account_id JOIN page p ON p.id = u.object_id AND p.deleted_at IS NULL
    WHERE e.portfolio_id = ? AND e.id = ? AND e.object = 'page' AND e.act = 'arrange' ORDER BY u.object_id`,
    [portfolioId, entryId],
  );
}
