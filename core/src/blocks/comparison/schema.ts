import { choice, line, list } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Comparison {
  readonly layout: 'even' | 'first' | 'second';
  readonly heading: string;
  readonly first: string;
  readonly second: string;
  readonly items: readonly { readonly what: string; readonly a: string; readonly b: string }[];
}

export const comparison = defineBlock<Comparison>({
  label: 'Comparison',
  group: 'Explain',
  glyph: [
    ['soft', 'M5 5h15v16H5z'],
    ['ink', 'M22 5h15v16H22z'],
    ['paper', 'M25 9h9v1.5h-9zM25 13h9v1.5h-9z'],
  ],
  example: {
    heading: '‹Two ways to come›',
    first: '‹This way›',
    second: '‹That way›',
    items: [1, 2].map(() => ({ what: '‹What matters›', a: '‹Here›', b: '‹There›' })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { even: 'Even', first: 'First stands out', second: 'Second stands out' }),
    line('heading', 'Heading', 200),
    line('first', 'First side', 80, 'The column heading. Compare only what differs.'),
    line('second', 'Second side', 80),
    list(
      'items',
      'Points',
      'Point',
      [2, 16],
      [line('what', 'What is compared', 120), line('a', 'First side', 160), line('b', 'Second side', 160)],
    ),
  ],
  summary: ({ heading, first, second }) => heading || `${first} · ${second}`,
});
