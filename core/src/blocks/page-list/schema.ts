import type { Reference } from '../../fields/fields.js';
import { choice, line, list, reference } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface PageList {
  readonly layout: 'filled' | 'framed' | 'lines';
  readonly heading: string;
  readonly items: readonly { readonly page: Reference | null; readonly words: string }[];
}

/** Pages by reference: their titles and addresses follow them, and those that are not live at a moment are left out. */
export const pageList = defineBlock<PageList>({
  label: 'List of pages',
  group: 'Ask',
  glyph: [
    ['moss', 'M9 5h24v4H9zM9 11h24v4H9z'],
    ['soft', 'M9 17h24v4H9z'],
  ],
  example: { items: [{ page: null, words: '' }] },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { filled: 'Filled', framed: 'Framed', lines: 'In lines' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Pages',
      'Page',
      [1, 60],
      [
        reference('page', 'Page', 'page', 'Shows the page’s title and follows it. Left out while the page isn’t live.'),
        line('words', 'Text next to it', 160, 'What it leads to.'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || `${items.length} ${items.length === 1 ? 'page' : 'pages'}`,
});
