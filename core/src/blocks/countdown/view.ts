import { writeMoment } from '../../time/index.js';
import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { script } from './script.js';
import { viewOf } from '../definition.js';
import type { Countdown } from './schema.js';

export const countdownView = viewOf<Countdown>({
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
.countdown{background:var(--tint);padding:calc(var(--section)*.45) max(var(--gutter),calc((100cqi - var(--page))/2))}
.countdown h2{margin:0 0 .75rem;font-size:var(--step-2)}
.countdown p{margin:0}
.count-to{font-weight:600}
.count:empty{display:none}
.count{display:flex;flex-wrap:wrap;gap:.25rem 1.25rem;margin-top:.75rem!important;font-variant-numeric:tabular-nums}
.count b{font:var(--display-weight) var(--step-2)/1.1 var(--display);display:block}
.count-after{font-size:var(--step-1);font-weight:600}
.countdown.large{text-align:center;background:var(--deep);color:var(--on-deep);padding-block:calc(var(--section)*.8)}
.countdown.large .count{justify-content:center}.countdown.large .count b{font-size:var(--step-5)}
@container(min-width:48rem){.countdown.beside{display:flex;align-items:center;justify-content:space-between;gap:2rem}.countdown.beside h2{margin:0}}`,
});
