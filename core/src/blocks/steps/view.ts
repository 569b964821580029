import { html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import { headingAt, leadOnHtml, linesAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Steps } from './schema.js';

export const stepsView = viewOf<Steps>({
  render: ({ layout, heading, items }, context) => html`
    <div class="steps ${layout}">
      ${headingAt(heading, context)}
      <ol>${items.map(
        ({ title, text, icon, link }, n) =>
          html`<li>${iconHtml(icon)}<h3${context.at(`items[${n}].title`)}>${title}</h3>${linesAt(text, `items[${n}].text`, context)}${leadOnHtml(link, context, `items[${n}].link`)}</li>`,
      )}</ol>
    </div>`,
  style: `
.steps{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.steps h2{margin:0 0 clamp(1.75rem,4vw,3rem);max-width:22em}
.steps ol{list-style:none;margin:0;padding:0;counter-reset:step;display:grid;gap:clamp(1.75rem,4vw,2.75rem)}
.steps li{counter-increment:step;position:relative}
.steps li::before{content:counter(step);font:var(--display-weight) var(--step-2)/1 var(--display);color:var(--accent);font-variant-numeric:tabular-nums}
.steps li:has(>.icon)::before{display:none!important}.steps .icon{width:1.9rem;height:1.9rem;color:var(--accent)}.steps:is(.down,.line) .icon{grid-row:1/3}.steps.beside .icon{display:block;margin-bottom:.75rem}
.steps h3{margin:0 0 .35rem}.steps p{margin:0 0 .5em;color:var(--quiet);max-width:var(--measure)}
.steps.down li,.steps.line li{display:grid;grid-template-columns:3rem minmax(0,1fr);column-gap:1rem}
.steps.down li::before,.steps.line li::before{grid-row:1/3}
.steps.line li::after{content:"";position:absolute;inset-inline-start:.75rem;top:2.75rem;bottom:-1.75rem;border-inline-start:2px solid color-mix(in srgb,var(--accent) 30%,transparent)}
.steps.line li:last-child::after{display:none}
@container(min-width:48rem){.steps.beside ol{grid-template-columns:repeat(auto-fit,minmax(13rem,1fr))}}
.steps.beside li::before{display:block;margin-bottom:.75rem}`,
});
