import type { Moment } from '../../fields/fields.js';
import { writeMoment } from '../../time/index.js';
import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, moment } from '../fields.js';
import { script } from './script.js';

interface Countdown {
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
  render: ({ layout, heading, to, moment: chosen, before, after }, context) => {
    const end = to === 'end' ? context.end : chosen;
    if (!end) return html``;
    const isOver = context.isPast(end.at);
    return html`
    <div class="countdown ${layout}">
      ${headingAt(heading, context)}
      ${
        isOver
          ? html`<p class="count-after"${context.at('after')}>${after}</p>`
          : html`<div data-until="${end.at}"><p class="count-to"><span${context.at('before')}>${before}</span> <time datetime="${new Date(end.at).toISOString()}">${writeMoment(end.at, end.zone, context.language)}</time></p><p class="count" role="timer"></p><p class="count-after" hidden>${after}</p></div>`
      }
    </div>`;
  },
  script,
  style: `
.countdown{background:var(--tint);padding:calc(var(--section)*.45) max(var(--gutter),calc((100vw - var(--page))/2))}
.countdown h2{margin:0 0 .75rem;font-size:var(--step-2)}
.countdown p{margin:0}
.count-to{font-weight:600}
.count:empty{display:none}
.count{display:flex;flex-wrap:wrap;gap:.25rem 1.25rem;margin-top:.75rem!important;font-variant-numeric:tabular-nums}
.count b{font:var(--display-weight) var(--step-2)/1.1 var(--display);display:block}
.count-after{font-size:var(--step-1);font-weight:600}
.countdown.large{text-align:center;background:var(--deep);color:var(--on-deep);padding-block:calc(var(--section)*.8)}
.countdown.large .count{justify-content:center}.countdown.large .count b{font-size:var(--step-5)}
@media(min-width:48rem){.countdown.beside{display:flex;align-items:center;justify-content:space-between;gap:2rem}.countdown.beside h2{margin:0}}`,
});
