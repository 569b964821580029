import type { Edit } from './edit.js';
import type { Block, PageDocument } from '../fields/types.js';
import { documentFromJSON, MAX_BLOCKS } from './page-document.js';
import { mapDocument } from './map.js';

/** Moves blocks up or down by one, past the next that is not moved with them; `null` where they are at the end already. */
export function moveSeveral({ blocks }: PageDocument, ids: ReadonlySet<string>, by: 1 | -1): Edit | null {
  const order = blocks.map(({ id }) => id);
  const rows = order.flatMap((id, row) => (ids.has(id) ? [row] : []));
  const outermost = by === 1 ? rows.at(-1) : rows[0];
  if (outermost === undefined || outermost + by < 0 || outermost + by >= order.length) return null;
  // Those that lead go first, so that each finds its place free.
  const inTurn = by === 1 ? rows.reverse() : rows;
  return {
    kind: 'several',
    edits: inTurn.map((row) => ({ kind: 'move', blockId: order[row] as string, to: row + by })),
  };
}

export function removeSeveral(ids: Iterable<string>): Edit {
  return { kind: 'several', edits: [...ids].map((blockId) => ({ kind: 'remove', blockId })) };
}

export function insertSeveral(blocks: readonly Block[], at: number): Edit {
  return { kind: 'several', edits: blocks.map((block, n) => ({ kind: 'insert', at: at + n, block })) };
}

/** Copied blocks as they travel by the clipboard: references and pictures are of a portfolio. */
export function blocksToText(blocks: readonly Block[], portfolioId: number): string {
  return JSON.stringify({ domatium: 'blocks', portfolioId, blocks });
}

export interface PastedBlocks {
  readonly blocks: readonly Block[];
  /** They came from another portfolio: links to pages and pictures did not come along. */
  readonly isForeign: boolean;
}

/** Blocks from the clipboard with identities of their own, or `null` where the text holds none that can be read. */
export function blocksFromText(text: string, portfolioId: number, newId: () => string): PastedBlocks | null {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return null;
  }
  const { domatium, portfolioId: from, blocks } = (read ?? {}) as Record<string, unknown>;
  if (domatium !== 'blocks' || !Array.isArray(blocks) || !blocks.length || blocks.length > MAX_BLOCKS) return null;
  const renamed = blocks.map((block) => ({ ...(block as object), id: newId() }));
  const page = documentFromJSON({ metadata: { title: '', description: '' }, blocks: renamed });
  if (!page.ok) return null;
  const isForeign = from !== portfolioId;
  const kept = isForeign
    ? mapDocument(page.value, {
        link: (target) => (target.kind === 'page' || target.kind === 'file' ? null : target),
        picture: () => null,
        reference: () => null,
      })
    : page.value;
  return { blocks: kept.blocks, isForeign };
}
