import { richTextOf, type RichText } from '../../fields/rich-text.js';
import { choice, line, list, rich } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Questions {
  readonly layout: 'folded' | 'beside' | 'open';
  readonly heading: string;
  readonly items: readonly { readonly question: string; readonly answer: RichText }[];
}

export const questions = defineBlock<Questions>({
  label: 'Questions',
  group: 'Answer',
  glyph: [
    ['ink', 'M5 6h24v1.5H5zM5 12h20v1.5H5zM5 18h26v1.5H5z'],
    ['moss', 'M34 5h3v3h-3zM34 11h3v3h-3zM34 17h3v3h-3z'],
  ],
  example: {
    heading: '‹Asked often›',
    items: [1, 2, 3].map(() => ({
      question: '‹What people want to know?›',
      answer: richTextOf('‹The answer, in a sentence or two.›'),
    })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { folded: 'Folded', beside: 'Heading beside', open: 'All open' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Questions',
      'Question',
      [1, 40],
      [
        line('question', 'Question', 200, 'As someone would ask it.'),
        rich('answer', 'Answer', 'The answer first, then the reason.'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ question }) => question).join(' · '),
});
