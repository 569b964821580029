import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Comparison } from './schema.js';

export const comparisonView = viewOf<Comparison>({
  render: ({ layout, heading, first, second, items }, context) => html`
    <div class="comparison ${layout}">
      ${headingAt(heading, context)}
      <table>
        <thead><tr><td></td><th scope="col"${context.at('first')}>${first}</th><th scope="col"${context.at('second')}>${second}</th></tr></thead>
        <tbody>${items.map(
          ({ what, a, b }, n) =>
            html`<tr><th scope="row"${context.at(`items[${n}].what`)}>${what}</th><td${context.at(`items[${n}].a`)}>${a}</td><td${context.at(`items[${n}].b`)}>${b}</td></tr>`,
        )}</tbody>
      </table>
    </div>`,
  style: `
.comparison{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.comparison h2{margin:0 0 2rem}
.comparison table{border-collapse:collapse;width:100%;table-layout:fixed}
.comparison th,.comparison td{text-align:start;vertical-align:top;padding:.8rem clamp(.5rem,2vw,1.25rem);border-bottom:1px solid color-mix(in srgb,var(--ink) 16%,transparent);overflow-wrap:break-word}
.comparison thead th{font:var(--display-weight) var(--step-1)/1.2 var(--display);border-bottom:2px solid var(--ink)}
.comparison tbody th{font-weight:400;color:var(--quiet);padding-inline-start:0}
.comparison.first td:nth-of-type(1),.comparison.first thead th:nth-child(2){background:var(--tint)}
.comparison.second td:nth-of-type(2),.comparison.second thead th:nth-child(3){background:var(--tint)}`,
});
