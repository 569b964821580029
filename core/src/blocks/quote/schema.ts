import { choice, line, paragraph } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Quote {
  readonly layout: 'tint' | 'ruled' | 'large';
  readonly text: string;
  readonly who: string;
  readonly role: string;
}

export const quote = defineBlock<Quote>({
  label: 'Quote',
  group: 'Prove',
  glyph: [
    ['ink', 'M11 8h20v2H11zM14 12h14v2H14z'],
    ['soft', 'M17 18h8v1.5h-8z'],
  ],
  example: { text: '‹What somebody said, in their own words.›', who: '‹Name›', role: '‹Who they are›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { tint: 'On tint', ruled: 'Beside a rule', large: 'Large' }),
    paragraph('text', 'What was said', 1000, 'Without quotation marks. Keep it to one or two sentences.'),
    line('who', 'Who said it', 120),
    line('role', 'Who they are', 160, 'What makes them credible: a trade, a place, a date.'),
  ],
  summary: ({ text }) => text,
});
