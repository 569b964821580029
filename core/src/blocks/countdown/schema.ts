import type { Moment } from '../../fields/moment.js';
import { choice, line, moment } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Countdown {
  readonly layout: 'band' | 'beside' | 'large';
  readonly heading: string;
  readonly to: 'moment' | 'end';
  readonly moment: Moment | null;
  readonly before: string;
  readonly after: string;
}

export const countdown = defineBlock<Countdown>({
  label: 'Countdown',
  group: 'Open',
  glyph: [
    ['soft', 'M4 7h10v12H4zM16 7h10v12H16z'],
    ['moss', 'M28 7h10v12H28z'],
  ],
  example: { heading: '‹What ends, or begins›', before: 'Until', after: '‹What is shown when it is over›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { band: 'Band', beside: 'Beside', large: 'Large' }),
    line('heading', 'Heading', 120),
    choice('to', 'Counts to', { moment: 'A moment', end: 'The end of the page’s period' }),
    moment('moment', 'Moment', 'Ignored when it counts to the end of the page’s period.'),
    line('before', 'Word before the date', 60, 'Shown where scripts don’t run: “until 6 January, 12:00”.'),
    line('after', 'Shown afterwards', 160, 'Replaces the countdown from that moment on.'),
  ],
  summary: ({ heading }) => heading,
  findings: ({ to, moment: at, after }) => [
    ...(to === 'moment' && !at
      ? [
          {
            severity: 'worth-fixing' as const,
            code: 'countdown-momentless' as const,
            field: 'moment',
          },
        ]
      : []),
    ...(to === 'moment' && at && !after
      ? [
          {
            severity: 'worth-fixing' as const,
            code: 'countdown-without-after' as const,
            field: 'after',
          },
        ]
      : []),
  ],
  asksEnd: ({ to }) => to === 'end',
});
