import { plainTextOf, richTextOf, type RichText } from '../../fields/rich-text.js';
import { choice, list, rich } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Columns {
  readonly layout: 'even' | 'first-wide' | 'last-wide';
  readonly items: readonly { readonly body: RichText }[];
}

export const columns = defineBlock<Columns>({
  label: 'Columns',
  group: 'Explain',
  glyph: [
    [
      'ink',
      'M5 6h14v2H5zM5 10h14v1.5H5zM5 13h14v1.5H5zM5 16h10v1.5H5zM23 6h14v2H23zM23 10h14v1.5H23zM23 13h14v1.5H23zM23 16h10v1.5H23z',
    ],
  ],
  example: { items: [1, 2].map(() => ({ body: richTextOf('‹What belongs in this column.›') })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { even: 'Even', 'first-wide': 'First wide', 'last-wide': 'Last wide' }),
    list('items', 'Columns', 'Column', [2, 4], [rich('body', 'Text', 'Stacked in this order on phones.')]),
  ],
  summary: ({ items }) =>
    items
      .map(({ body }) => plainTextOf(body))
      .join(' · ')
      .slice(0, 80),
});
