import type { Button } from '../../fields/fields.js';
import { button, choice, icon, line, list, paragraph } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Steps {
  readonly layout: 'down' | 'line' | 'beside';
  readonly heading: string;
  readonly items: readonly {
    readonly title: string;
    readonly text: string;
    readonly icon: string;
    readonly link: Button | null;
  }[];
}

export const steps = defineBlock<Steps>({
  label: 'Steps',
  group: 'Explain',
  glyph: [
    ['moss', 'M5 5h5v5H5zM5 16h5v5H5z'],
    ['ink', 'M13 6h20v2H13zM13 17h20v2H13z'],
    ['soft', 'M13 10h14v1.5H13zM13 21h14v1.5H13z'],
  ],
  example: {
    heading: '‹How it goes›',
    items: ['first', 'then', 'at the end'].map((when) => ({
      title: `‹What happens ${when}›`,
      text: '',
      icon: '',
      link: null,
    })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { down: 'Down the page', line: 'On a line', beside: 'Beside each other' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Steps',
      'Step',
      [2, 12],
      [
        line('title', 'Title', 120),
        paragraph('text', 'Text', 600, 'What they do, and what they get.'),
        button('link', 'Link'),
        icon('icon', 'Icon'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ title }) => title).join(' · '),
});
