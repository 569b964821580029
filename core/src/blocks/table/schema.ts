import { choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export const CELLS = ['a', 'b', 'c', 'd'] as const;

export type Row = { readonly [Key in (typeof CELLS)[number]]: string };

export interface Table {
  readonly layout: 'plain' | 'figures' | 'banded';
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
    items: [
      { a: '‹What›', b: '‹How much›', c: '', d: '' },
      { a: '‹One›', b: '‹1›', c: '', d: '' },
    ],
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', figures: 'Figures', banded: 'Banded' }),
    line('heading', 'Caption', 200, 'Screen readers read this before the table.'),
    list(
      'items',
      'Rows',
      'Row',
      [2, 60],
      [
        line('a', 'First', 200, 'The first row is the header; the first column names each row.'),
        line('b', 'Second', 200),
        line('c', 'Third', 200),
        line('d', 'Fourth', 200),
      ],
    ),
    line('note', 'Note below', 300),
  ],
  summary: ({ heading, items }) => heading || `${items.length} rows`,
});
