import type { PlacedPage, PlacingView } from '@domatium/contracts';
import {
  blockWords,
  completeDocument,
  placePiece as placed,
  type Block,
  type PageDocument,
  type PiecePlacing,
} from '@domatium/core/document';
import type { PortfolioId } from '@domatium/core/plan';
import { randomBytes } from 'node:crypto';
import { inTransaction, rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { draftsToChange, writeDrafts, type Seen } from './many-drafts.js';

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
    const drafts = await draftsToChange(trx, portfolioId, pageIds, seen);
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
    if (seen && pages.length) await writeDrafts(trx, context, portfolioId, pages, 'place-piece');
    return { pages: pages.map(({ document: _, ...page }) => page), out };
  });
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
