import { html } from '../../html/index.js';
import { headingAt, linesHtml, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Voices } from './schema.js';

export const voicesView = viewOf<Voices>({
  render: ({ layout, heading, items }, context) => html`
    <div class="voices ${layout}">
      ${headingAt(heading, context)}
      <div class="voices-list">${items.map(
        ({ text, who, role, picture }, n) => html`<figure>
          <blockquote${context.at(`items[${n}].text`)}>${linesHtml(text)}</blockquote>
          <figcaption>${picture && pictureHtml(picture, context, '3.5rem')}<span><span class="voices-who"${context.at(`items[${n}].who`)}>${who}</span>${role && html` <span class="voices-role"${context.at(`items[${n}].role`)}>${role}</span>`}</span></figcaption></figure>`,
      )}</div>
    </div>`,
  style: `
.voices{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.voices h2{margin:0 0 clamp(1.75rem,4vw,3rem)}
.voices-list{display:grid;gap:clamp(1.5rem,4vw,3rem);grid-template-columns:repeat(auto-fit,minmax(min(100%,17rem),1fr))}
.voices figure{margin:0;display:flex;flex-direction:column;gap:1rem}
.voices blockquote{margin:0;font-size:var(--step-1);line-height:1.45}.voices blockquote p{margin:0 0 .5em}
.voices figcaption{display:flex;gap:.75rem;align-items:center;font-size:var(--small)}
.voices figcaption img{width:3.5rem;height:auto;aspect-ratio:1;object-fit:cover;border-radius:50%}.voices figcaption .own-shape{border-radius:var(--corner)}
.voices-who,.voices-role{display:block}.voices-who{font-weight:650}.voices-role{color:var(--quiet)}
.voices.cards figure{background:var(--tint);padding:1.75rem;border-radius:calc(2*var(--corner));justify-content:space-between}
.voices.column .voices-list{grid-template-columns:minmax(0,var(--measure));justify-content:center}.voices.column h2{text-align:center}`,
});
