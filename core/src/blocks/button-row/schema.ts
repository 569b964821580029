import type { Button } from '../../fields/fields.js';
import { button, choice, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface ButtonRow {
  readonly layout: 'start' | 'centred' | 'end';
  readonly items: readonly { readonly button: Button | null }[];
}

export const buttonRow = defineBlock<ButtonRow>({
  label: 'Button row',
  group: 'Ask',
  glyph: [
    ['moss', 'M5 10h14v6H5z'],
    ['soft', 'M23 10h14v6H23z'],
  ],
  example: { items: [{ button: { label: '‹What happens›', target: null } }] },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { start: 'At the start', centred: 'Centred', end: 'At the end' }),
    list('items', 'Buttons', 'Button', [1, 5], [button('button', 'Button', 'The first is the main action.')]),
  ],
  summary: ({ items }) => items.map(({ button }) => button?.label ?? '').join(' · '),
});
