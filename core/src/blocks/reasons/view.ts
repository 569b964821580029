import { html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import { headingAt, leadOnHtml, linesAt, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Reasons } from './schema.js';

export const reasonsView = viewOf<Reasons>({
  render: ({ layout, heading, items }, context) => html`
    <div class="reasons ${layout}">
      ${headingAt(heading, context)}
      <ul class="reasons-list n${items.length}">${items.map(
        ({ title, text, picture, icon, link }, n) => html`<li>
          ${!picture && iconHtml(icon)}${picture && pictureHtml(picture, context, '(min-width: 60rem) 24rem, (min-width: 40rem) 50vw, 100vw')}
          <h3${context.at(`items[${n}].title`)}>${title}</h3>${linesAt(text, `items[${n}].text`, context)}${leadOnHtml(link, context, `items[${n}].link`)}</li>`,
      )}</ul>
    </div>`,
  style: `
.lead-on{margin:.75rem 0 0}.lead-on a{display:inline-flex;gap:.4em;align-items:center;min-height:1.75rem;color:var(--ink);font-weight:600}
.reasons{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.reasons h2{margin:0 0 clamp(2rem,4vw,3.5rem);max-width:22em}
.reasons-list{list-style:none;margin:0;padding:0;display:grid;gap:clamp(2rem,4vw,3rem);grid-template-columns:repeat(auto-fit,minmax(min(100%,17rem),1fr))}
@container(min-width:60rem){.reasons.grid .reasons-list{grid-template-columns:repeat(3,1fr)}.reasons.grid .n4{grid-template-columns:repeat(2,1fr)}}
.reasons-list li{border-top:2px solid var(--accent);padding-top:1.25rem}
.reasons-list li:has(img){border-top:0;padding-top:0}
.reasons-list img{display:block;width:100%;height:auto;aspect-ratio:4/3;object-fit:cover;border-radius:var(--corner);margin-bottom:1.25rem}
.reasons-list .icon{display:block;width:2rem;height:2rem;color:var(--accent);margin-bottom:.9rem}
.reasons-list h3{margin:0 0 .5rem}
.reasons-list p{margin:0;color:var(--quiet)}
.reasons:is(.rows,.ruled) .reasons-list{grid-template-columns:minmax(0,1fr)}
@container(min-width:46rem){.reasons.rows li{display:grid;grid-template-columns:minmax(0,1fr) minmax(0,1fr);column-gap:clamp(1.5rem,5vw,4rem);grid-template-rows:1fr 1fr}.reasons.rows :is(img,picture){grid-row:1/3;margin:0}.reasons.rows li:not(:has(img)){grid-template-rows:none}.reasons.rows li:not(:has(img))>*{grid-column:1/-1}.reasons.rows li:has(img)>h3{align-self:end}.reasons.rows li:nth-child(even) :is(img,picture){grid-column:2}.reasons.rows li:has(img):has(.lead-on){grid-template-rows:1fr auto 1fr}.reasons.rows li:has(.lead-on) :is(img,picture){grid-row:1/4}.reasons.rows li:has(img) .lead-on{grid-column:2}.reasons.rows li:nth-child(even):has(img) .lead-on{grid-column:1}}
.reasons.rows h3{font-size:var(--step-2)}.reasons.rows .lines{max-width:28em}
.reasons.ruled .reasons-list{gap:0}.reasons.ruled li,.reasons.ruled li:has(img){border-top:1px solid color-mix(in srgb,var(--ink) 22%,transparent);padding:1.5rem 0}
.reasons.ruled :is(img,picture){max-width:12rem}
@container(min-width:46rem){.reasons.ruled li{display:grid;grid-template-columns:minmax(0,5fr) minmax(0,7fr);column-gap:clamp(1.5rem,5vw,4rem)}.reasons.ruled :is(img,picture,.icon){grid-column:1/-1}.reasons.ruled .lead-on{grid-column:2}}`,
});
