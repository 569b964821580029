import { appearanceOf } from '../blocks/appearance.js';
import type { Block } from '../fields/types.js';

export const MOST_COLUMNS = 4;

/** Blocks below one another in one column, with the share of the row it takes. */
export interface Column {
  readonly share: 1 | 2 | 3;
  readonly blocks: readonly Block[];
}

/** What stands from edge to edge: one block, or a row of two to four columns. */
export type Row = readonly [Block] | readonly Column[];
export const isRow = (row: Row): row is readonly Column[] => 'blocks' in (row[0] as object);

/**
 * A page as it stands: blocks from edge to edge, and rows of columns. Which column a block is in is said by the block alone,
 * in relation to the one before it, so that every order of blocks is a page: what says it is beside another and has none
 * before it begins a row; a fifth column begins another; a row of one column is no row.
 */
export function rowsOf(blocks: readonly Block[]): Row[] {
  const rows: Block[][][] = [];
  let isOpen = false;
  for (const block of blocks) {
    const { beside } = appearanceOf(block.fields);
    const row = rows.at(-1);
    if (beside === 'alone' || beside === 'row' || !row || !isOpen) rows.push([[block]]);
    else if (beside === 'same') row.at(-1)?.push(block);
    else if (row.length < MOST_COLUMNS) row.push([block]);
    else rows.push([[block]]);
    isOpen = beside !== 'alone';
  }
  return rows.flatMap((columns): Row[] =>
    columns.length === 1
      ? columns.flat().map((block): Row => [block])
      : [columns.map((column) => ({ share: shareOf(column[0]), blocks: column }))],
  );
}

/** The blocks of the row a block stands in, by columns; `null` of one that stands alone. */
export const rowWith = (blocks: readonly Block[], blockId: string): readonly Column[] | null =>
  rowsOf(blocks).find(
    (row): row is readonly Column[] =>
      isRow(row) && row.some((column) => column.blocks.some(({ id }) => id === blockId)),
  ) ?? null;

const shareOf = (block: Block | undefined): Column['share'] =>
  Number(block ? appearanceOf(block.fields).share : 1) as Column['share'];

/** Where a block stands in its row, counting from 1; `null` of one that stands alone. */
export function placesInRows(blocks: readonly Block[]): ReadonlyMap<string, { column: number; of: number }> {
  return new Map(
    rowsOf(blocks).flatMap((row) =>
      isRow(row)
        ? row.flatMap((column, n) => column.blocks.map(({ id }) => [id, { column: n + 1, of: row.length }] as const))
        : [],
    ),
  );
}
