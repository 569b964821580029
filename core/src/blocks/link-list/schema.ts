import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface LinkList {
  readonly layout: 'filled' | 'framed' | 'lines';
  readonly heading: string;
  readonly items: readonly { readonly button: Button | null; readonly words: string }[];
}

export const linkList = defineBlock<LinkList>({
  label: 'Link list',
  group: 'Ask',
  glyph: [['moss', 'M9 5h24v4H9zM9 11h24v4H9zM9 17h24v4H9z']],
  example: { items: [1, 2, 3].map(() => ({ button: { label: '‹Where it leads›', target: null }, words: '' })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { filled: 'Filled', framed: 'Framed', lines: 'In lines' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Links',
      'Link',
      [1, 40],
      [button('button', 'Link'), line('words', 'Text next to it', 160, 'What it leads to.')],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ button }) => button?.label ?? '').join(' · '),
});
