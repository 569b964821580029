import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, list, paragraph, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Voices {
  readonly layout: 'plain' | 'cards' | 'column';
  readonly heading: string;
  readonly items: readonly {
    readonly text: string;
    readonly who: string;
    readonly role: string;
    readonly picture: PictureUse | null;
  }[];
}

export const voices = defineBlock<Voices>({
  label: 'Several voices',
  group: 'Prove',
  glyph: [
    ['ink', 'M5 6h14v1.5H5zM5 9h10v1.5H5zM23 6h14v1.5H23zM23 9h10v1.5H23z'],
    ['soft', 'M5 14h7v1.5H5zM23 14h7v1.5h-7z'],
  ],
  example: {
    heading: '‹What guests say›',
    items: [1, 2, 3].map(() => ({ text: '‹In their own words.›', who: '‹Name›', role: '', picture: null })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', cards: 'Cards', column: 'Stacked' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Voices',
      'Voice',
      [2, 9],
      [
        paragraph('text', 'What was said', 600),
        line('who', 'Who said it', 120),
        line('role', 'Who they are', 160, 'What makes them credible: a trade, a place, a date.'),
        pictureField('picture', 'Picture'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ who }) => who).join(' · '),
});
