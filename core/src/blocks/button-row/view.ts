import { html } from '../../html/index.js';
import { buttonHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { ButtonRow } from './schema.js';

export const buttonRowView = viewOf<ButtonRow>({
  render: ({ layout, items }, context) => html`
    <div class="button-row ${layout}">${items.map(({ button }, n) => buttonHtml(button, context, `items[${n}].button`))}</div>`,
  style: `
.button-row{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.4) var(--gutter);display:flex;flex-wrap:wrap;gap:.75rem 1rem}
.button-row.centred{justify-content:center}.button-row.end{justify-content:flex-end}
.button-row .button+.button{background:none;color:var(--ink);box-shadow:inset 0 0 0 2px currentColor}`,
});
