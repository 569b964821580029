import { plainTextOf, richTextOf, type RichText } from '../../fields/rich-text.js';
import { choice, rich } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Text {
  readonly layout: 'plain' | 'first' | 'two';
  readonly body: RichText;
}

export const text = defineBlock<Text>({
  label: 'Text',
  group: 'Explain',
  glyph: [['ink', 'M7 7h28v1.5H7zM7 11h28v1.5H7zM7 15h28v1.5H7zM7 19h18v1.5H7z']],
  example: { body: richTextOf('‹Say it in the words you would use across a table.›') },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', first: 'Large first lines', two: 'Two columns' }),
    rich('body', 'Text', 'Headings here are level 2 and 3; level 1 is in the opening.'),
  ],
  summary: ({ body }) => plainTextOf(body).slice(0, 80),
});
