import type { Button } from '../../fields/fields.js';
import { html } from '../../html/index.js';
import { buttonHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { button, choice, list } from '../fields.js';

interface ButtonRow {
  readonly layout: 'start' | 'centred' | 'end';
  readonly items: readonly { readonly button: Button | null }[];
}

export const buttonRow = defineBlock<ButtonRow>({
  label: 'Button row',
  group: 'Ask',
  glyph: [
    ['moss', 'M5 10h14v6H5z'],
    ['soft', 'M23 10h14v6H23z'],
  ],
  example: { items: [{ button: { label: '‹What happens›', target: null } }] },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { start: 'At the start', centred: 'Centred', end: 'At the end' }),
    list('items', 'Buttons', 'Button', [1, 5], [button('button', 'Button', 'The first is the main action.')]),
  ],
  summary: ({ items }) => items.map(({ button }) => button?.label ?? '').join(' · '),
  render: ({ layout, items }, context) => html`
    <div class="button-row ${layout}">${items.map(({ button }, n) => buttonHtml(button, context, `items[${n}].button`))}</div>`,
  style: `
.button-row{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.4) var(--gutter);display:flex;flex-wrap:wrap;gap:.75rem 1rem}
.button-row.centred{justify-content:center}.button-row.end{justify-content:flex-end}
.button-row .button+.button{background:none;color:var(--ink);box-shadow:inset 0 0 0 2px currentColor}`,
});
