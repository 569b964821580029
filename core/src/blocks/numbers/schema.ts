import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Numbers {
  readonly layout: 'plain' | 'ruled' | 'deep';
  readonly heading: string;
  readonly items: readonly { readonly figure: string; readonly words: string; readonly link: Button | null }[];
}

export const numbers = defineBlock<Numbers>({
  label: 'Numbers',
  group: 'Prove',
  glyph: [
    ['ink', 'M6 7h7v6H6zM18 7h7v6h-7zM30 7h6v6h-6z'],
    ['soft', 'M5 16h9v1.5H5zM17 16h9v1.5h-9zM29 16h8v1.5h-8z'],
  ],
  example: { items: [1, 2, 3].map((n) => ({ figure: `‹${n}00›`, words: '‹what it counts›', link: null })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', ruled: 'Ruled', deep: 'On dark' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Numbers',
      'Number',
      [2, 6],
      [
        line('figure', 'Number', 24, 'With its unit: 42 km, 1,200 guests.'),
        line('words', 'What it counts', 120, 'Say compared with what, or since when.'),
        button('link', 'Link'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ figure, words }) => `${figure} ${words}`).join(' · '),
});
