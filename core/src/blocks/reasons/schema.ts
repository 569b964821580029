import type { Button } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { button, choice, icon, line, list, paragraph, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Reasons {
  readonly layout: 'grid' | 'rows' | 'ruled';
  readonly heading: string;
  readonly items: readonly {
    readonly title: string;
    readonly text: string;
    readonly picture: PictureUse | null;
    readonly icon: string;
    readonly link: Button | null;
  }[];
}

export const reasons = defineBlock<Reasons>({
  label: 'Reasons',
  group: 'Explain',
  glyph: [
    ['soft', 'M5 5h9v9H5zM17 5h9v9h-9zM29 5h8v9h-8z'],
    ['ink', 'M5 17h9v1.5H5zM17 17h9v1.5h-9zM29 17h8v1.5h-8z'],
  ],
  example: {
    heading: '‹Why people choose this›',
    items: ['first', 'second', 'third'].map((which) => ({
      title: `‹The ${which} reason›`,
      text: '‹What it means for them.›',
      picture: null,
      icon: '',
      link: null,
    })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { grid: 'Beside each other', rows: 'Picture beside text', ruled: 'In lines' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Reasons',
      'Reason',
      [3, 6],
      [
        line('title', 'Title', 120, 'What visitors get, not what you have.'),
        paragraph('text', 'Text', 600),
        icon('icon', 'Icon'),
        pictureField('picture', 'Picture', 'In place of the icon, where there is one.'),
        button('link', 'Link'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ title }) => title).join(' · '),
});
