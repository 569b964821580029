import { plainTextOf, richTextOf, type RichText } from '../../document/rich-text.js';
import { html } from '../../render/html.js';
import { richTextHtml } from '../../render/parts.js';
import { defineBlock } from '../definition.js';
import { rich } from '../fields.js';

interface Text {
  readonly body: RichText;
}

export const text = defineBlock<Text>({
  label: 'Text',
  group: 'Explain',
  glyph: [['ink', 'M7 7h28v1.5H7zM7 11h28v1.5H7zM7 15h28v1.5H7zM7 19h18v1.5H7z']],
  example: { body: richTextOf('‹Say it in the words you would use across a table.›') },
  firstHeadings: 0,
  fields: [rich('body', 'Text')],
  summary: ({ body }) => plainTextOf(body).slice(0, 80),
  render: ({ body }, context) => html`<div class="prose"${context.at('body')}>${richTextHtml(body, context)}</div>`,
  style: `
.prose{max-width:calc(var(--measure) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.prose>:first-child{margin-top:0}.prose>:last-child{margin-bottom:0}
.prose h2{margin:2.25em 0 .6em}.prose h3{margin:2em 0 .5em}
.prose p,.prose ul,.prose ol{margin:0 0 1.05em}
.prose li{margin-bottom:.4em}.prose li>p{margin:0}
.prose ul{padding-inline-start:1.2em}.prose li::marker{color:var(--accent)}`,
});
