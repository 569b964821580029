import type { OverriddenText } from '@domatium/contracts';
import { completeBlock, isBlockType, type Block, type PageDocument } from '@domatium/core/document';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { NotFoundError } from '../../platform/errors.js';
import { dateOf, insertRows, rowsOf, type Context, type Db } from '../../platform/database/context.js';

/** The draft that is replaced, and whose it is. */
interface Replaced {
  readonly document: PageDocument;
  readonly changed_by_id: number | null;
}

/**
 * Keeps what somebody else wrote in blocks that the person decided for their own text, so that the other is told and has it.
 * Gives whom to tell; `null` where there is nobody.
 */
export async function keepOverridden(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  pageId: number,
  { document, changed_by_id: whose }: Replaced,
  over: readonly string[],
): Promise<number | null> {
  if (whose === null || whose === account) return null;
  const blocks = new Map([...document.blocks, ...(document.tray ?? [])].map((block) => [block.id, block]));
  const rows = [...new Set(over)].flatMap((blockId) => {
    const was = blockId === 'page' ? document.metadata : blocks.get(blockId);
    return was
      ? [
          {
            portfolio_id: portfolioId,
            page_id: pageId,
            account_id: whose,
            by_id: account,
            at: dateOf(now),
            block_id: blockId,
            was,
          },
        ]
      : [];
  });
  if (!rows.length) return null;
  await insertRows(trx, 'overridden', rows);
  return whose;
}

/** What of the one who asks was replaced on a page, the newest first. */
export async function overriddenOf(db: Db, { account }: Context, pageId: number): Promise<OverriddenText[]> {
  const rows = await rowsOf<{ id: number; at: Instant; by: string | null; block_id: string; was: unknown }>(
    db,
    `SELECT o.id, o.at, a.name AS by, o.block_id, o.was FROM overridden o LEFT JOIN account a ON a.id = o.by_id
    WHERE o.page_id = ? AND o.account_id = ? ORDER BY o.at DESC, o.id`,
    [pageId, account],
  );
  return rows.flatMap(({ id, at, by, block_id, was }): OverriddenText[] => {
    if (block_id === 'page') return [{ id, at, by, metadata: was as PageDocument['metadata'], block: null }];
    const block = was as Block;
    return isBlockType(block.type) ? [{ id, at, by, metadata: null, block: completeBlock(block) }] : [];
  });
}

/** The person has seen it. */
export async function dismissOverridden({ database, account }: Context, pageId: number, id: number): Promise<object> {
  if (!(await database('overridden').where({ id, page_id: pageId, account_id: account }).delete()))
    throw new NotFoundError();
  return {};
}
