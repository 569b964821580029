import { html } from '../../html/index.js';
import { headingAt, leadOnHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Numbers } from './schema.js';

export const numbersView = viewOf<Numbers>({
  render: ({ layout, heading, items }, context) => html`
    <div class="numbers ${layout}">
      ${headingAt(heading, context)}
      <dl>${items.map(
        ({ figure, words, link }, n) =>
          html`<div><dt><span${context.at(`items[${n}].words`)}>${words}</span>${leadOnHtml(link, context, `items[${n}].link`)}</dt><dd${context.at(`items[${n}].figure`)}>${figure}</dd></div>`,
      )}</dl>
    </div>`,
  style: `
.numbers{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.numbers h2{margin:0 0 2rem}
.numbers dl{margin:0;display:grid;gap:2rem clamp(2rem,5vw,4rem);grid-template-columns:repeat(auto-fit,minmax(min(100%,9rem),1fr))}
.numbers dl>div{display:flex;flex-direction:column-reverse;justify-content:flex-end}
.numbers dd{margin:0;font:var(--display-weight) var(--step-5)/1 var(--display);letter-spacing:var(--display-spacing);font-variant-numeric:tabular-nums}
.numbers dt{margin-top:.5rem;color:var(--quiet);max-width:18em}
.numbers.ruled dl>div{border-top:2px solid var(--accent);padding-top:1rem;justify-content:flex-end}
.numbers.deep{max-width:none;background:var(--deep);color:var(--on-deep);padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}
.numbers.deep :is(dt,.lead-on a){color:inherit}`,
});
