import { html } from '../../html/index.js';
import { richTextHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Columns } from './schema.js';

export const columnsView = viewOf<Columns>({
  render: ({ layout, items }, context) => html`
    <div class="columns ${layout} n${items.length}">${items.map(
      ({ body }, n) => html`<div class="column"${context.at(`items[${n}].body`)}>${richTextHtml(body, context)}</div>`,
    )}</div>`,
  style: `
.columns{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);display:grid;gap:2rem clamp(2rem,5vw,4.5rem)}
@container(min-width:48rem){.columns.even{grid-template-columns:repeat(auto-fit,minmax(14rem,1fr))}.columns.first-wide.n2{grid-template-columns:5fr 3fr}.columns.last-wide.n2{grid-template-columns:3fr 5fr}.columns:not(.even):not(.n2){grid-template-columns:repeat(auto-fit,minmax(14rem,1fr))}}
.column>:first-child{margin-top:0}.column>:last-child{margin-bottom:0}
.column p,.column ul,.column ol{margin:0 0 1em}.column ul,.column ol{padding-inline-start:1.2em}.column li>p{margin:0}.column h2{font-size:var(--step-2)}`,
});
