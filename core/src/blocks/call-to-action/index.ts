import type { Button } from '../../document/fields.js';
import { html } from '../../render/html.js';
import { buttonHtml, linesHtml } from '../../render/parts.js';
import { defineBlock } from '../definition.js';

interface CallToAction {
  readonly heading: string;
  readonly text: string;
  readonly button: Button | null;
}

export const callToAction = defineBlock<CallToAction>({
  label: 'Call to action',
  group: 'Ask',
  firstHeadings: 0,
  fields: [
    { kind: 'line', key: 'heading', label: 'Heading', max: 200 },
    { kind: 'paragraph', key: 'text', label: 'Text', max: 600 },
    { kind: 'button', key: 'button', label: 'Button' },
  ],
  summary: ({ heading }) => heading,
  render: ({ heading, text, button }, context) => html`
    <div class="ask"><div class="ask-inner">
      <div>${heading && html`<h2>${heading}</h2>`}${text && linesHtml(text)}</div>
      ${buttonHtml(button, context)}
    </div></div>`,
  style: `
.ask{background:var(--deep);color:var(--on-deep)}
.ask-inner{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.9) var(--gutter);display:flex;flex-wrap:wrap;gap:2rem 4rem;align-items:center;justify-content:space-between}
.ask h2{margin:0 0 .5rem;max-width:18em}
.ask p{margin:0;max-width:36em;opacity:.86}
.ask .button{background:var(--on-deep);color:var(--deep)}`,
});
