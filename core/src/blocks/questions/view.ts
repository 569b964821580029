import { html } from '../../html/index.js';
import { headingAt, richTextHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Questions } from './schema.js';

export const questionsView = viewOf<Questions>({
  render: ({ layout, heading, items }, context) => html`
    <div class="questions ${layout}">
      ${headingAt(heading, context)}
      <div class="questions-list">${items.map(({ question, answer }, n) => {
        const words = html`<div class="questions-answer"${context.at(`items[${n}].answer`)}>${richTextHtml(answer, context)}</div>`;
        const asked = html`<h3${context.at(`items[${n}].question`)}>${question}</h3>`;
        return layout === 'open'
          ? html`<div class="question">${asked}${words}</div>`
          : html`<details><summary>${asked}</summary>${words}</details>`;
      })}</div>
    </div>`,
  style: `
.questions{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);display:grid;gap:2rem clamp(2rem,6vw,5rem)}
.questions h2{margin:0}
.questions-list{max-width:calc(var(--measure) + 8rem)}
.questions details,.question{border-bottom:1px solid color-mix(in srgb,var(--ink) 18%,transparent)}
.questions summary{display:flex;gap:1rem;justify-content:space-between;align-items:baseline;padding:1.1rem 0;cursor:pointer;list-style:none}
.questions summary::-webkit-details-marker{display:none}
.questions summary::after{content:"+";font:400 1.5rem/1 var(--text);color:var(--accent)}.questions details[open]>summary::after{content:"\\2212"}
.questions summary:focus-visible{outline:3px solid var(--accent);outline-offset:3px}
.questions h3{margin:0;text-wrap:wrap}.question h3{padding-top:1.25rem}
.questions-answer p,.questions-answer ul,.questions-answer ol{margin:0 0 1em}.questions-answer ul,.questions-answer ol{padding-inline-start:1.2em}.questions-answer li>p{margin:0}
.question .questions-answer{padding-top:.5rem}
@media print{.questions details::details-content{content-visibility:visible;block-size:auto}}
@container(min-width:60rem){.questions.beside{grid-template-columns:minmax(0,1fr) minmax(0,2fr)}}`,
});
