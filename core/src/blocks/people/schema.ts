import type { Button } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { button, choice, line, list, paragraph, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface People {
  readonly layout: 'portraits' | 'round' | 'rows';
  readonly heading: string;
  readonly items: readonly {
    readonly name: string;
    readonly role: string;
    readonly text: string;
    readonly picture: PictureUse | null;
    readonly link: Button | null;
  }[];
}

export const people = defineBlock<People>({
  label: 'People',
  group: 'Prove',
  glyph: [
    ['soft', 'M8 5h6v6H8zM18 5h6v6h-6zM28 5h6v6h-6z'],
    ['ink', 'M7 14h8v1.5H7zM17 14h8v1.5h-8zM27 14h8v1.5h-8z'],
  ],
  example: {
    heading: '‹Who you meet›',
    items: [1, 2, 3].map(() => ({ name: '‹Name›', role: '‹What they do›', text: '', picture: null, link: null })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { portraits: 'Portraits', round: 'Round', rows: 'In rows' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'People',
      'Person',
      [1, 24],
      [
        line('name', 'Name', 120),
        line('role', 'What they do', 120, 'What they do for visitors, not their job title.'),
        paragraph('text', 'Text', 600),
        pictureField('picture', 'Picture'),
        button('link', 'Link'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ name }) => name).join(' · '),
});
