import { html } from '../../html/index.js';
import { headingAt, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Logos } from './schema.js';

export const logosView = viewOf<Logos>({
  render: ({ layout, heading, items }, context) => html`
    <div class="logos ${layout}">
      ${headingAt(heading, context)}
      <ul>${items.map(({ picture, name }, n) => html`<li>${picture ? pictureHtml(picture, context, '10rem') : html`<span${context.at(`items[${n}].name`)}>${name}</span>`}</li>`)}</ul>
    </div>`,
  style: `
.logos{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);padding-block:calc(var(--section)*.6)}
.logos h2{font:600 var(--small)/1.4 var(--text);letter-spacing:.01em;color:var(--quiet);margin:0 0 1.5rem}
.logos ul{list-style:none;margin:0;padding:0;display:flex;flex-wrap:wrap;gap:1.5rem clamp(2rem,5vw,4rem);align-items:center}
.logos img{display:block;height:2.75rem;width:auto;max-width:10rem;object-fit:contain}
.logos span{font:var(--display-weight) var(--step-1)/1.2 var(--display)}
.logos.centred{text-align:center}.logos.centred ul{justify-content:center}
.logos.banded{max-width:none;background:var(--tint);padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}`,
});
