import type { PlacedPage, PlacingView } from '@domatium/contracts';
import {
  blockWords,
  completeDocument,
  placePiece as placed,
  type Block,
  type PageDocument,
  type PiecePlacing,
} from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { randomBytes } from 'node:crypto';
import { writeAudit } from '../../platform/database/audit.js';
import { dateOf, inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { ConflictError, NotFoundError } from '../../platform/errors.js';
import { notifyEvent } from '../../platform/events/index.js';
import { keepStates } from './states.js';
import { say } from '@domatium/core/words/answers/drafts';

interface DraftOfPage {
  readonly id: PageId;
  readonly name: string;
  readonly version: number;
  readonly document: PageDocument;
  readonly has_more: boolean;
}
interface Seen {
  readonly pageId: number;
  readonly version: number;
}

/** A piece on the drafts of many pages: what would become of them, or, with the drafts that were seen, what became of them. */
export function placePiece(
  context: Context,
  portfolioId: PortfolioId,
  placing: PiecePlacing,
  pageIds: readonly number[],
  seen: readonly Seen[] | null,
): Promise<PlacingView> {
  return inTransaction(context.database, async (trx) => {
    const names = await namesOf(trx, portfolioId);
    if (!names.has(placing.pieceId)) throw new NotFoundError();
    const drafts = await draftsOf(trx, portfolioId, seen ? seen.map(({ pageId }) => pageId) : pageIds, seen !== null);
    const known = seen && new Map(seen.map(({ pageId, version }) => [pageId, version]));
    const changed = known ? drafts.filter(({ id, version }) => known.get(id) !== version) : [];
    if (changed.length) throw new ConflictError(say.draftsHaveChanged(changed.map(({ name }) => name)));
    const pages: (PlacedPage & { readonly document: PageDocument })[] = [];
    const out: PlacingView['out'][number][] = [];
    for (const { id: pageId, name, version, document, has_more: hasMore } of drafts) {
      const whole = completeDocument(document);
      const result = placed(whole, placing, randomBytes(6).toString('hex'));
      if (typeof result === 'string') out.push({ pageId, name, why: result });
      else {
        const lines = linesOf(whole, result.document, names);
        pages.push({
          ...{ pageId, name, hasMore, lines },
          document: result.document,
          version: version + (seen ? 1 : 0),
        });
      }
    }
    if (seen && pages.length) await write(trx, context, portfolioId, pages, 'place-piece');
    return { pages: pages.map(({ document: _, ...page }) => page), out };
  });
}

/** Gives drafts back what they were before their last change, where nobody has changed them since. */
export function placeBack(
  context: Context,
  portfolioId: PortfolioId,
  seen: readonly Seen[],
): Promise<{ readonly count: number }> {
  return inTransaction(context.database, async (trx) => {
    await draftsOf(
      trx,
      portfolioId,
      seen.map(({ pageId }) => pageId),
      true,
    );
    const before = await rowsOf<{ pageId: number; document: PageDocument }>(
      trx,
      `SELECT d.page_id AS "pageId", s.document FROM unnest(?::bigint[], ?::int[]) AS n (id, version)
      JOIN draft d ON d.page_id = n.id AND d.version = n.version AND d.portfolio_id = ?
      JOIN draft_state s ON s.page_id = d.page_id AND s.version = d.version - 1 ORDER BY d.page_id`,
      [seen.map(({ pageId }) => pageId), seen.map(({ version }) => version), portfolioId],
    );
    if (before.length) await write(trx, context, portfolioId, before, 'place-back');
    return { count: before.length };
  });
}

async function write(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  pages: readonly { readonly pageId: number; readonly document: PageDocument }[],
  act: 'place-piece' | 'place-back',
): Promise<void> {
  const ids = pages.map(({ pageId }) => pageId);
  await keepStates(trx, ids);
  await rowsOf(
    trx,
    `WITH written AS (
      UPDATE draft d SET document = n.document::jsonb, version = version + 1, changed_at = ?, changed_by = ?
      FROM unnest(?::bigint[], ?::text[]) AS n (id, document) WHERE d.page_id = n.id RETURNING d.page_id)
    UPDATE page p SET changed_at = ?, changed_by = ? FROM written w WHERE p.id = w.page_id`,
    [dateOf(now), account, ids, pages.map(({ document }) => JSON.stringify(document)), dateOf(now), account],
  );
  await writeAudit(
    trx,
    ...ids.map((objectId) => ({ portfolioId, at: now, accountId: account, act, object: 'draft' as const, objectId })),
  );
  await notifyEvent(trx, { portfolioId, kind: 'draft', pageIds: ids, by: account, at: now });
}

function draftsOf(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
  isWritten: boolean,
): Promise<DraftOfPage[]> {
  return rowsOf<DraftOfPage>(
    db,
    `SELECT p.id, p.name, d.version, d.document, coalesce((SELECT r.document <> d.document FROM revision r WHERE r.page_id = p.id ORDER BY r.number DESC LIMIT 1), false) AS has_more
    FROM page p JOIN draft d ON d.page_id = p.id WHERE p.portfolio_id = ? AND p.id = ANY(?) ORDER BY p.id ${isWritten ? 'FOR UPDATE OF d' : ''}`,
    [portfolioId, ids],
  );
}

async function namesOf(db: Db, portfolioId: PortfolioId): Promise<Map<number, string>> {
  const rows = await rowsOf<{ id: number; name: string }>(
    db,
    `SELECT id, name FROM stock_item WHERE portfolio_id = ? AND kind = 'piece'`,
    [portfolioId],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** What stands around the place, before and after. */
function linesOf(before: PageDocument, after: PageDocument, names: ReadonlyMap<number, string>): PlacedPage['lines'] {
  const words = (block: Block): string => {
    const piece = block.fields['piece'] as { readonly id: number } | null | undefined;
    return block.type === 'piece' ? `“${(piece && names.get(piece.id)) ?? ''}”` : blockWords(block);
  };
  const had = new Set(before.blocks.map(({ id }) => id));
  const has = new Set(after.blocks.map(({ id }) => id));
  // What went stands where it stood, before what came in its place.
  const gone = before.blocks.flatMap((block, at) => (has.has(block.id) ? [] : [{ block, at }]));
  const lines = after.blocks.map(
    (block) => ({ id: block.id, words: words(block), how: had.has(block.id) ? 'same' : 'new' }) as const,
  );
  const all: { id: string; words: string; how: 'same' | 'new' | 'gone' }[] = [...lines];
  for (const { block, at } of gone) {
    const next = before.blocks.slice(at + 1).find(({ id }) => has.has(id));
    const to = next ? all.findIndex(({ id }) => id === next.id) : all.length;
    const isNewBefore = all[to - 1]?.how === 'new';
    all.splice(isNewBefore ? to - 1 : to, 0, { id: block.id, words: words(block), how: 'gone' });
  }
  const near = new Set(all.flatMap(({ how }, n) => (how === 'same' ? [] : [n - 1, n, n + 1])));
  return all.filter((_, n) => near.has(n)).map(({ words: said, how }) => ({ words: said, how }));
}
