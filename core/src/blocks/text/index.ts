import { plainTextOf, richTextOf, type RichText } from '../../fields/rich-text.js';
import { html } from '../../html/index.js';
import { richTextHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, rich } from '../fields.js';

interface Text {
  readonly layout: 'plain' | 'first' | 'two';
  readonly body: RichText;
}

export const text = defineBlock<Text>({
  label: 'Text',
  group: 'Explain',
  glyph: [['ink', 'M7 7h28v1.5H7zM7 11h28v1.5H7zM7 15h28v1.5H7zM7 19h18v1.5H7z']],
  example: { body: richTextOf('‹Say it in the words you would use across a table.›') },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', first: 'Large first lines', two: 'Two columns' }),
    rich('body', 'Text', 'Headings here are level 2 and 3; level 1 is in the opening.'),
  ],
  summary: ({ body }) => plainTextOf(body).slice(0, 80),
  render: ({ layout, body }, context) =>
    html`<div class="prose ${layout}"${context.at('body')}>${richTextHtml(body, context)}</div>`,
  style: `
.prose{max-width:calc(var(--measure) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.prose>:first-child{margin-top:0}.prose>:last-child{margin-bottom:0}
.prose h2{margin:2.25em 0 .6em}.prose h3{margin:2em 0 .5em}
.prose p,.prose ul,.prose ol{margin:0 0 1.05em}
.prose li{margin-bottom:.4em}.prose li>p{margin:0}
.prose ul{padding-inline-start:1.2em}.prose li::marker{color:var(--accent)}
.prose.first>p:first-child{font-size:var(--step-2);line-height:1.4;text-wrap:pretty}
@media(min-width:52rem){.prose.two{max-width:calc(var(--page) + 2*var(--gutter));columns:2;column-gap:clamp(2rem,6vw,5rem)}.prose.two :is(h2,h3){break-after:avoid}.prose.two li{break-inside:avoid}}`,
});
