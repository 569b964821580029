import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface LinkColumns {
  readonly layout: 'even' | 'close' | 'rows';
  readonly items: readonly { readonly heading: string; readonly button: Button | null }[];
}

export const linkColumns = defineBlock<LinkColumns>({
  label: 'Columns of links',
  group: 'Answer',
  glyph: [
    ['moss', 'M5 5h9v3H5zM17 5h9v3h-9zM29 5h9v3h-9z'],
    ['ink', 'M5 11h8v1.5H5zM5 14h8v1.5H5zM17 11h8v1.5h-8zM17 14h8v1.5h-8zM29 11h8v1.5h-8zM29 14h8v1.5h-8z'],
  ],
  example: {
    items: ['‹First column›', '', '‹Second column›', ''].map((heading) => ({
      ...{ heading, button: { label: '‹Where it leads›', target: null } },
    })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', {
      even: 'Even columns',
      close: 'As wide as their words',
      rows: 'Each column a row',
    }),
    list(
      'items',
      'Links',
      'Link',
      [1, 80],
      [
        line('heading', 'Begins a column', 60, 'The heading of the column; blank: it goes on in the one before.'),
        button('button', 'Link', 'A page that isn’t live is left out until it is.'),
      ],
    ),
  ],
  summary: ({ items }) =>
    items
      .map(({ heading }) => heading)
      .filter(Boolean)
      .join(' · ') || items.map(({ button }) => button?.label ?? '').join(' · '),
});

/** Its columns, each with the places of its entries in the list. */
export function columnsIn({ items }: Pick<LinkColumns, 'items'>): { heading: string; at: number; entries: number[] }[] {
  const columns: { heading: string; at: number; entries: number[] }[] = [];
  items.forEach(({ heading }, at) => {
    const last = columns.at(-1);
    if (heading || !last) columns.push({ heading, at, entries: [at] });
    else last.entries.push(at);
  });
  return columns;
}
