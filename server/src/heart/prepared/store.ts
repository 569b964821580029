import { PERMITTED, type Changes, type StockChange } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface PreparedRow extends Changes {
  readonly stock: readonly StockChange[];
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly made_at: Instant;
  readonly made_by: string | null;
  readonly changed_at: Instant;
  readonly changed_by: string | null;
  readonly made_by_id: number | null;
  readonly changed_by_id: number | null;
}

const OPEN = 'p.release_id IS NULL AND p.dropped_at IS NULL';

/** Prepared releases that wait, newest first; one of them where an identity is given. */
export function preparedOf(db: Db, portfolioId: PortfolioId, id: number | null = null): Promise<PreparedRow[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.version, p.changes, p.stock, p.made_at, p.made_by AS made_by_id, p.changed_by AS changed_by_id, m.name AS made_by, p.changed_at, c.name AS changed_by
    FROM prepared_release p LEFT JOIN account m ON m.id = p.made_by LEFT JOIN account c ON c.id = p.changed_by
    WHERE p.portfolio_id = ? AND ${OPEN} ${id === null ? '' : 'AND p.id = ?'} ORDER BY p.id DESC`,
    id === null ? [portfolioId] : [portfolioId, id],
  );
}

export async function lockPrepared(trx: Db, portfolioId: PortfolioId, id: number): Promise<void> {
  await rowsOf(trx, 'SELECT 1 FROM prepared_release WHERE portfolio_id = ? AND id = ? FOR UPDATE', [portfolioId, id]);
}

export async function insertPrepared(
  trx: Db,
  portfolioId: PortfolioId,
  prepared: Changes & { readonly name: string },
  now: Instant,
  accountId: number | null,
): Promise<number> {
  const [row] = (await trx('prepared_release')
    .insert({
      portfolio_id: portfolioId,
      name: prepared.name,
      changes: JSON.stringify(prepared.changes),
      stock: JSON.stringify(prepared.stock ?? []),
      made_at: dateOf(now),
      made_by: accountId,
      changed_at: dateOf(now),
      changed_by: accountId,
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A prepared release was not written');
  await saveSubjects(trx, portfolioId, row.id, prepared);
  return row.id;
}

export async function updatePrepared(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
  prepared: Changes & { readonly name: string },
  now: Instant,
  accountId: number | null,
): Promise<void> {
  await trx('prepared_release')
    .where({ id })
    .update({
      name: prepared.name,
      changes: JSON.stringify(prepared.changes),
      stock: JSON.stringify(prepared.stock ?? []),
      version: trx.raw('version + 1'),
      changed_at: dateOf(now),
      changed_by: accountId,
    });
  await trx('prepared_page').where({ prepared_id: id }).delete();
  await trx('prepared_item').where({ prepared_id: id }).delete();
  await saveSubjects(trx, portfolioId, id, prepared);
}

async function saveSubjects(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
  { changes, stock = [] }: Changes,
): Promise<void> {
  const items = [...new Set(stock.map(({ itemId }) => itemId))];
  await insertRows(
    trx,
    'prepared_item',
    items.map((item_id) => ({ portfolio_id: portfolioId, prepared_id: id, item_id })),
  );
  const pages = [...new Set(changes.map(({ pageId }) => pageId))];
  await insertRows(
    trx,
    'prepared_page',
    pages.map((page_id) => ({ portfolio_id: portfolioId, prepared_id: id, page_id })),
  );
}

export async function notePressed(trx: Db, id: number, releaseId: number): Promise<void> {
  await trx('prepared_release').where({ id }).update({ release_id: releaseId });
}

export async function noteDropped(trx: Db, id: number, now: Instant): Promise<void> {
  await trx('prepared_release')
    .where({ id })
    .update({ dropped_at: dateOf(now) });
}

/** Of these identities those that are pages of the portfolio. */
export async function ownPages(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<Set<number>> {
  const rows = await rowsOf<{ id: PageId }>(
    db,
    'SELECT id FROM page WHERE portfolio_id = ? AND id = ANY(?) AND deleted_at IS NULL',
    [portfolioId, ids],
  );
  return new Set(rows.map(({ id }) => id as number));
}

/** What the drafts of a prepared release hold, of pages and of things of the stock, as one hash. */
const contentOf = (id: string) =>
  `(SELECT coalesce(md5(string_agg(c.hash, ' ' ORDER BY c.kind, c.id)), '') FROM (
    SELECT 'page' AS kind, d.page_id AS id, md5(d.document::text) AS hash FROM prepared_page t JOIN draft d ON d.page_id = t.page_id WHERE t.prepared_id = ${id}
    UNION ALL SELECT 'thing', i.id, md5(i.draft::text) FROM prepared_item t JOIN stock_item i ON i.id = t.item_id WHERE t.prepared_id = ${id}) c)`;

/** Who approved prepared releases as they are now: what they say, and the drafts they would put on the air. */
export function approvalsOf(
  db: Db,
  ids: readonly number[],
): Promise<{ prepared_id: number; account_id: number; name: string }[]> {
  return rowsOf(
    db,
    `SELECT v.prepared_id, v.account_id, a.name FROM approval v JOIN prepared_release p ON p.id = v.prepared_id AND p.version = v.version
    JOIN account a ON a.id = v.account_id WHERE v.prepared_id = ANY(?) AND v.content = ${contentOf('p.id')} ORDER BY v.at`,
    [ids],
  );
}

export async function insertApproval(
  trx: Db,
  portfolioId: PortfolioId,
  preparedId: number,
  version: number,
  accountId: number,
  now: Instant,
): Promise<void> {
  await rowsOf(
    trx,
    `INSERT INTO approval (portfolio_id, prepared_id, account_id, version, at, content)
     SELECT portfolio_id, id, ?, ?, ?, ${contentOf('prepared_release.id')} FROM prepared_release WHERE portfolio_id = ? AND id = ?
     ON CONFLICT (prepared_id, account_id) DO UPDATE SET version = excluded.version, at = excluded.at, content = excluded.content`,
    [accountId, version, dateOf(now), portfolioId, preparedId],
  );
}

export interface WordRow {
  readonly id: number;
  readonly prepared_id: number;
  readonly at: Instant;
  readonly by: string | null;
  readonly account_id: number | null;
  readonly text: string;
  readonly version: number;
  readonly sends_back: boolean;
}

/** What was said of prepared releases, the first first. */
export function wordsOf(db: Db, ids: readonly number[]): Promise<WordRow[]> {
  return rowsOf(
    db,
    `SELECT w.id, w.prepared_id, w.at, a.name AS by, w.account_id, w.text, w.version, w.sends_back
    FROM prepared_word w LEFT JOIN account a ON a.id = w.account_id WHERE w.prepared_id = ANY(?) ORDER BY w.id`,
    [ids],
  );
}

export async function insertWord(
  trx: Db,
  word: {
    readonly portfolio_id: PortfolioId;
    readonly prepared_id: number;
    readonly account_id: number | null;
    readonly text: string;
    readonly version: number;
    readonly sends_back: boolean;
  },
  now: Instant,
): Promise<number> {
  const [row] = (await trx('prepared_word')
    .insert({ ...word, at: dateOf(now) })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** Takes back what somebody approved. */
export async function deleteApproval(trx: Db, preparedId: number, accountId: number | null): Promise<void> {
  await trx('approval').where({ prepared_id: preparedId, account_id: accountId }).delete();
}

/** Who may approve: everybody who may release. */
export function approversOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(
    db,
    `SELECT a.id, a.name FROM membership m JOIN account a ON a.id = m.account_id
    WHERE m.portfolio_id = ? AND m.role = ANY(?) ORDER BY a.name`,
    [portfolioId, PERMITTED.release],
  );
}
