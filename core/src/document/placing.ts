import { appearanceOf } from '../blocks/appearance.js';
import type { BlockType } from '../fields/names.js';
import type { Reference } from '../fields/fields.js';
import type { Block, PageDocument } from '../fields/types.js';
import { MAX_BLOCKS, newBlock } from './page-document.js';

/** What is done with a piece on many pages: put at a place, or taken away. */
export interface PiecePlacing {
  readonly act: 'insert' | 'remove';
  readonly pieceId: number;
  readonly where: 'first' | 'last' | 'before' | 'after' | 'instead';
  /** By which block it is put: the first of a type, or another piece. */
  readonly by: { readonly type: BlockType } | { readonly pieceId: number } | null;
}

/** Why a page takes no part. */
export type NotPlaced = 'has-it' | 'has-none' | 'no-place' | 'full';

/** A page with a piece placed: where, and what went aside for it. */
export interface PiecePlaced {
  readonly document: PageDocument;
  /** Blocks that are there now and were not. */
  readonly added: readonly Block[];
  /** Blocks that are not there any more; what they held is in the tray, but for links to pieces. */
  readonly gone: readonly Block[];
}

const pieceIn = ({ type, fields }: Block): number | null =>
  type === 'piece' ? ((fields['piece'] as Reference | null)?.id ?? null) : null;

/** A page with a piece put on it or taken off, or why not. Nothing vanishes: what it is put instead of goes to the tray. */
export function placePiece(document: PageDocument, placing: PiecePlacing, id: string): PiecePlaced | NotPlaced {
  const { blocks } = document;
  if (placing.act === 'remove') {
    const gone = blocks.filter((block) => pieceIn(block) === placing.pieceId);
    if (!gone.length) return 'has-none';
    return { document: { ...document, blocks: blocks.filter((block) => !gone.includes(block)) }, added: [], gone };
  }
  if (blocks.some((block) => pieceIn(block) === placing.pieceId)) return 'has-it';
  const { where, by } = placing;
  const piece = newBlock('piece', id, { piece: { id: placing.pieceId } });
  if (where === 'first' || where === 'last') {
    if (blocks.length >= MAX_BLOCKS) return 'full';
    const at = where === 'first' ? 0 : blocks.length;
    return { document: { ...document, blocks: blocks.toSpliced(at, 0, piece) }, added: [piece], gone: [] };
  }
  const at = by
    ? blocks.findIndex((block) => ('type' in by ? block.type === by.type : pieceIn(block) === by.pieceId))
    : -1;
  const other = blocks[at];
  if (!other) return 'no-place';
  if (where !== 'instead') {
    if (blocks.length >= MAX_BLOCKS) return 'full';
    // Within a column it stands in that column.
    const isIn = appearanceOf(other.fields).beside !== 'alone';
    const [own, theirs] = where === 'before' ? [other.fields['beside'], 'same'] : ['same', other.fields['beside']];
    const placed = isIn ? { ...piece, fields: { ...piece.fields, beside: own ?? null } } : piece;
    const moved = isIn ? { ...other, fields: { ...other.fields, beside: theirs ?? null } } : other;
    const pair = where === 'before' ? [placed, moved] : [moved, placed];
    return { document: { ...document, blocks: blocks.toSpliced(at, 1, ...pair) }, added: [placed], gone: [] };
  }
  const tray = other.type === 'piece' ? (document.tray ?? []) : [...(document.tray ?? []), other];
  if (tray.length > MAX_BLOCKS) return 'full';
  const { beside, share } = other.fields;
  const stands = { ...(beside === undefined ? {} : { beside }), ...(share === undefined ? {} : { share }) };
  const placed = { ...piece, fields: { ...piece.fields, ...stands } };
  return {
    document: { ...document, blocks: blocks.toSpliced(at, 1, placed), ...(tray.length ? { tray } : {}) },
    added: [placed],
    gone: [other],
  };
}
