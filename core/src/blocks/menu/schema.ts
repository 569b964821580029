import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Menu {
  readonly layout: 'row' | 'folded' | 'list';
  readonly heading: string;
  readonly items: readonly { readonly button: Button | null; readonly shownAt: 'everywhere' | 'wide' | 'narrow' }[];
}

/** Entries of a menu at most: more than anybody reads. */
const MOST = 200;

export const menu = defineBlock<Menu>({
  label: 'Menu',
  group: 'Answer',
  glyph: [['ink', 'M4 11h8v3H4zM17 11h8v3h-8zM30 11h8v3h-8z']],
  example: {
    items: [1, 2, 3].map(() => ({ button: { label: '‹Where it leads›', target: null }, shownAt: 'everywhere' })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { row: 'In a row, folded where narrow', folded: 'Always folded', list: 'As a list' }),
    line('heading', 'Heading', 60, 'Above a list; read out of the others.'),
    list(
      'items',
      'Entries',
      'Entry',
      [1, MOST],
      [
        button('button', 'Entry', 'A page that isn’t live is left out until it is.'),
        choice('shownAt', 'Shown', { everywhere: 'Everywhere', wide: 'On wide screens', narrow: 'On narrow screens' }),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ button }) => button?.label ?? '').join(' · '),
});
