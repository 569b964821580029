import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface LegalLine {
  readonly layout: 'start' | 'centred' | 'apart';
  readonly words: string;
  readonly items: readonly { readonly button: Button | null }[];
}

export const legalLine = defineBlock<LegalLine>({
  label: 'Legal line',
  group: 'Close',
  glyph: [
    ['soft', 'M5 16h16v3H5z'],
    ['ink', 'M26 16h11v3H26z'],
  ],
  example: { words: '© {year} {site name}' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { start: 'One after the other', centred: 'Centred', apart: 'Links at the end' }),
    line('words', 'Words', 200, '{year} and {site name} are filled in by themselves.'),
    list('items', 'Links', 'Link', [0, 12], [button('button', 'Link')]),
  ],
  summary: ({ words }) => words,
});
