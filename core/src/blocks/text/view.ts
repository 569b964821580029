import { html } from '../../html/index.js';
import { richTextHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Text } from './schema.js';

export const textView = viewOf<Text>({
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
@container(min-width:52rem){.prose.two{max-width:calc(var(--page) + 2*var(--gutter));columns:2;column-gap:clamp(2rem,6vw,5rem)}.prose.two :is(h2,h3){break-after:avoid}.prose.two li{break-inside:avoid}}`,
});
