import { choice, line } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Neighbours {
  readonly layout: 'boxes' | 'lines' | 'plain';
  readonly previous: string;
  readonly next: string;
}

export const neighbours = defineBlock<Neighbours>({
  label: 'Previous and next',
  group: 'Close',
  glyph: [
    ['soft', 'M3 8h15v11H3z'],
    ['moss', 'M24 8h15v11H24z'],
  ],
  example: { previous: 'Previous', next: 'Next' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { boxes: 'In boxes', lines: 'Between lines', plain: 'Plain links' }),
    line('previous', 'Words beside the page before', 40, 'The pages beside this one in the page tree of the site.'),
    line('next', 'Words beside the page after', 40),
  ],
  summary: ({ previous, next }) => [previous, next].filter(Boolean).join(' · ') || 'The pages beside this one',
});
