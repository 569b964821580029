import { plainTextOf, richTextOf, type RichText } from '../../fields/rich-text.js';
import { html } from '../../html/index.js';
import { richTextHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, list, rich } from '../fields.js';

interface Columns {
  readonly layout: 'even' | 'first-wide' | 'last-wide';
  readonly items: readonly { readonly body: RichText }[];
}

export const columns = defineBlock<Columns>({
  label: 'Columns',
  group: 'Explain',
  glyph: [
    [
      'ink',
      'M5 6h14v2H5zM5 10h14v1.5H5zM5 13h14v1.5H5zM5 16h10v1.5H5zM23 6h14v2H23zM23 10h14v1.5H23zM23 13h14v1.5H23zM23 16h10v1.5H23z',
    ],
  ],
  example: { items: [1, 2].map(() => ({ body: richTextOf('‹What belongs in this column.›') })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { even: 'Even', 'first-wide': 'First wide', 'last-wide': 'Last wide' }),
    list('items', 'Columns', 'Column', [2, 4], [rich('body', 'Text', 'Stacked in this order on phones.')]),
  ],
  summary: ({ items }) =>
    items
      .map(({ body }) => plainTextOf(body))
      .join(' · ')
      .slice(0, 80),
  render: ({ layout, items }, context) => html`
    <div class="columns ${layout} n${items.length}">${items.map(
      ({ body }, n) => html`<div class="column"${context.at(`items[${n}].body`)}>${richTextHtml(body, context)}</div>`,
    )}</div>`,
  style: `
.columns{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);display:grid;gap:2rem clamp(2rem,5vw,4.5rem)}
@media(min-width:48rem){.columns.even{grid-template-columns:repeat(auto-fit,minmax(14rem,1fr))}.columns.first-wide.n2{grid-template-columns:5fr 3fr}.columns.last-wide.n2{grid-template-columns:3fr 5fr}.columns:not(.even):not(.n2){grid-template-columns:repeat(auto-fit,minmax(14rem,1fr))}}
.column>:first-child{margin-top:0}.column>:last-child{margin-bottom:0}
.column p,.column ul,.column ol{margin:0 0 1em}.column ul,.column ol{padding-inline-start:1.2em}.column li>p{margin:0}.column h2{font-size:var(--step-2)}`,
});
