import type { Button } from '../../fields/fields.js';
import { button, choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Profiles {
  readonly layout: 'row' | 'list' | 'signs';
  readonly heading: string;
  readonly items: readonly { readonly button: Button | null }[];
}

export const profiles = defineBlock<Profiles>({
  label: 'Profiles elsewhere',
  group: 'Answer',
  glyph: [
    ['moss', 'M6 9h7v7H6zM17 9h7v7h-7zM28 9h7v7h-7z'],
    ['soft', 'M6 18h7v2H6zM17 18h7v2h-7zM28 18h7v2h-7z'],
  ],
  example: {
    heading: 'Follow us',
    items: ['‹A profile›', '‹Another›'].map((label) => ({ button: { label, target: null } })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { row: 'In a row', list: 'As a list', signs: 'Icons only' }),
    line('heading', 'Heading', 60, 'Above the profiles; read out where it isn’t shown.'),
    list(
      'items',
      'Profiles',
      'Profile',
      [1, 20],
      [button('button', 'Profile', 'With an icon it can stand for itself; its name is read out.')],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ button }) => button?.label ?? '').join(' · '),
});
