import type { FileView } from '@domatium/contracts';
import { referencesOf, type PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { PART_KINDS, type Part } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import type { OfBlocks, Showing } from './store.js';

/** Bytes that a file has, or had. */
export interface FileBytes {
  readonly hash: string;
  readonly bytes: number;
}
export interface StoredFile extends Omit<FileView, 'src' | 'former'>, FileBytes {
  readonly former: FileBytes | null;
}

const COLUMNS = 'id, name, hash, ending, bytes::float8 AS bytes, version, former';

export function filesOf(db: Db, portfolioId: PortfolioId): Promise<StoredFile[]> {
  return rowsOf(db, `SELECT ${COLUMNS} FROM stored_file WHERE portfolio_id = ? ORDER BY name, id`, [portfolioId]);
}

export async function fileById(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<StoredFile | null> {
  const [row] = await rowsOf<StoredFile>(
    db,
    `SELECT ${COLUMNS} FROM stored_file WHERE portfolio_id = ? AND id = ? ${lock}`,
    [portfolioId, id],
  );
  return row ?? null;
}

export async function fileByHash(db: Db, portfolioId: PortfolioId, hash: string): Promise<StoredFile | null> {
  const [row] = await rowsOf<StoredFile>(
    db,
    `SELECT ${COLUMNS} FROM stored_file WHERE portfolio_id = ? AND hash = ? ORDER BY is_twin, id LIMIT 1`,
    [portfolioId, hash],
  );
  return row ?? null;
}

export async function insertFile(
  trx: Db,
  portfolioId: PortfolioId,
  file: Pick<StoredFile, 'name' | 'hash' | 'ending' | 'bytes'>,
  made: { readonly at: Instant; readonly by: number | null },
): Promise<number> {
  const [row] = (await trx('stored_file')
    .insert({ portfolio_id: portfolioId, ...file, created_at: dateOf(made.at), created_by: made.by })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** Gives a file other bytes, which another file may have too; pages that lead to it are published again. */
export async function replaceBytes(trx: Db, { id, hash, bytes }: StoredFile, fresh: FileBytes): Promise<void> {
  await trx('stored_file')
    .where({ id })
    .update({
      hash: fresh.hash,
      bytes: fresh.bytes,
      former: JSON.stringify({ hash, bytes }),
      version: trx.raw('version + 1'),
      must_publish: true,
      is_twin: trx.raw(
        'EXISTS (SELECT FROM stored_file o WHERE o.portfolio_id = stored_file.portfolio_id AND o.hash = ? AND o.id <> stored_file.id)',
        [fresh.hash],
      ),
    });
}

/** Documents in which something may refer to this identity, whatever it is: a file or a block of another number is told apart afterwards. */
const MAY_REFER = `jsonb_path_exists(%, 'strict $.** \\? (@.fileId == $id || @.id == $id)', jsonb_build_object('id', ?::int))`;
const mayRefer = (column: string) => MAY_REFER.replace('%', column);

/** Pages whose draft, or whose live or planned revision, leads to a file or plays it. */
export async function pagesWithFile(db: Db, portfolioId: PortfolioId, id: number, now: Instant): Promise<Showing[]> {
  const rows = await rowsOf<{ page_id: PageId; name: string; is_plan: boolean; document: PageDocument }>(
    db,
    `SELECT p.id AS page_id, p.name, false AS is_plan, d.document FROM draft d JOIN page p ON p.id = d.page_id
      WHERE p.portfolio_id = ? AND p.deleted_at IS NULL AND ${mayRefer('d.document')}
    UNION ALL SELECT p.id, p.name, true, r.document FROM page p JOIN LATERAL (
      SELECT DISTINCT revision_id FROM period WHERE page_id = p.id AND coalesce(until_at, 'infinity') > ?) q ON true JOIN revision r ON r.id = q.revision_id
      WHERE p.portfolio_id = ? AND p.deleted_at IS NULL AND ${mayRefer('r.document')} ORDER BY 2, 1`,
    [portfolioId, id, dateOf(now), portfolioId, id],
  );
  const pages = new Map<PageId, Showing>();
  for (const { page_id, name, is_plan, document } of rows) {
    if (!referencesOf(document, 'file').includes(id)) continue;
    const { in_draft = false, in_plan = false } = pages.get(page_id) ?? {};
    pages.set(page_id, { page_id, name, in_draft: in_draft || !is_plan, in_plan: in_plan || is_plan });
  }
  return [...pages.values()];
}

/** Something of the stock that refers to a file. */
type WithFile = Omit<OfBlocks, 'kind'> & { readonly kind: OfBlocks['kind'] | 'theme' };

export const isOfBlocks = (one: WithFile): one is OfBlocks => one.kind !== 'theme';

/** What of the stock refers to a file: pieces and parts that lead to it or play it, themes whose font it is. */
export async function stockWithFile(db: Db, portfolioId: PortfolioId, id: number): Promise<WithFile[]> {
  const rows = await rowsOf<WithFile & { content: unknown }>(
    db,
    `SELECT i.id, i.name, i.kind, c.content FROM stock_item i JOIN LATERAL (
      SELECT i.draft AS content UNION ALL SELECT r.content FROM stock_period q JOIN stock_revision r ON r.id = q.revision_id WHERE q.item_id = i.id) c ON ${mayRefer('c.content')}
    WHERE i.portfolio_id = ? AND i.kind = ANY(?) AND i.removed_at IS NULL ORDER BY i.name`,
    [id, portfolioId, ['theme', 'piece', ...PART_KINDS]],
  );
  const blocksOf = (kind: WithFile['kind'], content: unknown) =>
    kind === 'piece' ? content : (content as Part).blocks;
  const refers = ({ kind, content }: (typeof rows)[number]) =>
    kind === 'theme'
      ? (content as { ownFonts?: readonly { fileId: number }[] }).ownFonts?.some(({ fileId }) => fileId === id)
      : referencesOf({ blocks: blocksOf(kind, content) } as PageDocument, 'file').includes(id);
  return [...new Map(rows.filter(refers).map(({ content: _, ...one }) => [one.id, one])).values()];
}

/** Files that were replaced, whose pages are not published with the new ones yet. */
export function filesToPublish(db: Db): Promise<{ id: number; portfolio_id: PortfolioId; version: number }[]> {
  return rowsOf(db, 'SELECT id, portfolio_id, version FROM stored_file WHERE must_publish ORDER BY id LIMIT 50');
}

/** One that was replaced once more meanwhile stays to be published. */
export async function noteFilesPublished(
  db: Db,
  files: readonly { readonly id: number; readonly version: number }[],
): Promise<void> {
  for (const { id, version } of files) await db('stored_file').where({ id, version }).update({ must_publish: false });
}
