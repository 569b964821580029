import { choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export const CELLS = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j', 'k', 'l'] as const;
const PLACES = 'First Second Third Fourth Fifth Sixth Seventh Eighth Ninth Tenth Eleventh Twelfth'.split(' ');
/** So many cells are asked for in every row; each one more as the one before it is filled in. */
const ALWAYS = 4;

export type Row = { readonly [Key in (typeof CELLS)[number]]: string };

/** A row of so many cells, the others empty. */
export const rowOf = (...cells: readonly string[]): Row =>
  Object.fromEntries(CELLS.map((key, n) => [key, cells[n] ?? ''])) as Row;

export interface Table {
  readonly layout: 'plain' | 'figures' | 'banded';
  /** Whether the first row names the columns. */
  readonly head: 'row' | 'none';
  readonly heading: string;
  readonly note: string;
  readonly items: readonly Row[];
}

export const table = defineBlock<Table>({
  label: 'Table',
  group: 'Show',
  glyph: [
    ['ink', 'M5 5h32v4H5z'],
    ['soft', 'M5 12h32v1.5H5zM5 16h32v1.5H5zM5 20h32v1.5H5z'],
  ],
  example: {
    heading: '‹What the table shows›',
    items: [rowOf('‹What›', '‹How much›'), rowOf('‹One›', '‹1›')],
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', figures: 'Figures', banded: 'Banded' }),
    choice('head', 'First row', { row: 'Names the columns', none: 'Is like the others' }),
    line('heading', 'Caption', 200, 'Screen readers read this before the table.'),
    list(
      'items',
      'Rows',
      'Row',
      [2, 60],
      CELLS.map((key, n) => ({
        ...line(key, PLACES[n] ?? '', 200, n ? undefined : 'The first column names each row.'),
        ...(n < ALWAYS ? {} : { after: CELLS[n - 1] as string }),
      })),
    ),
    line('note', 'Note below', 300),
  ],
  summary: ({ heading, items }) => heading || `${items.length} rows`,
});
