import { html } from '../../html/index.js';
import { linesHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Quote } from './schema.js';

export const quoteView = viewOf<Quote>({
  render: ({ layout, text, who, role }, context) => html`
    <figure class="quote ${layout}">
      <blockquote${context.at('text')}>${linesHtml(text)}</blockquote>
      ${who && html`<figcaption><span class="quote-who"${context.at('who')}>${who}</span>${role && html` <span class="quote-role"${context.at('role')}>${role}</span>`}</figcaption>`}
    </figure>`,
  style: `
.quote{margin:0;padding:var(--section) var(--gutter)}.quote.tint{background:var(--tint)}
.quote blockquote{margin:0 auto;max-width:24em;font:var(--quote-weight) var(--step-3)/1.28 var(--display);letter-spacing:var(--display-spacing);text-wrap:balance}
.quote blockquote p{margin:0 0 .5em}
.quote figcaption{max-width:calc(24*var(--step-3));margin:1.75rem auto 0;font-size:var(--small);display:flex;gap:.75em;flex-wrap:wrap}
.quote-who{font-weight:650}.quote-role{color:var(--quiet)}
.quote.ruled{max-width:calc(var(--measure) + 2*var(--gutter));margin-inline:auto}
.quote.ruled blockquote{font-size:var(--step-2);margin:0;border-inline-start:3px solid var(--accent);padding-inline-start:1.25em;max-width:none}
.quote.ruled figcaption{margin-inline:0;padding-inline-start:calc(1.25*var(--step-2))}
.quote.large{text-align:center}
.quote.large blockquote{font-size:var(--step-5);line-height:1.12;max-width:17em}
.quote.large figcaption{justify-content:center}`,
});
