import { choice } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface WayUp {
  readonly layout: 'slashes' | 'arrows' | 'boxes';
  readonly ends: 'page' | 'above';
}

export const wayUp = defineBlock<WayUp>({
  label: 'Breadcrumbs',
  group: 'Answer',
  glyph: [
    ['soft', 'M3 11h9v4H3zM17 11h9v4h-9z'],
    ['moss', 'M31 11h8v4h-8z'],
  ],
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { slashes: 'With slashes', arrows: 'With arrows', boxes: 'In boxes' }),
    {
      ...choice('ends', 'End with', { page: 'The page itself', above: 'The page above it' }),
      help: 'By the page tree of the site, from the home page down. Left out on pages that are not in it.',
    },
  ],
  summary: ({ ends }) => (ends === 'page' ? 'From the home page to this page' : 'From the home page to the page above'),
});
