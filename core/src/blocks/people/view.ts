import { html } from '../../html/index.js';
import { headingAt, leadOnHtml, linesAt, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { People } from './schema.js';

export const peopleView = viewOf<People>({
  render: ({ layout, heading, items }, context) => html`
    <div class="people ${layout}">
      ${headingAt(heading, context)}
      <ul>${items.map(
        ({ name, role, text, picture, link }, n) => html`<li>
          ${picture && pictureHtml(picture, context, '(min-width: 60rem) 17rem, 50vw')}
          <div><h3${context.at(`items[${n}].name`)}>${name}</h3>${role && html`<p class="people-role"${context.at(`items[${n}].role`)}>${role}</p>`}${linesAt(text, `items[${n}].text`, context)}${leadOnHtml(link, context, `items[${n}].link`)}</div></li>`,
      )}</ul>
    </div>`,
  style: `
.people{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.people h2{margin:0 0 clamp(1.75rem,4vw,3rem)}
.people ul{list-style:none;margin:0;padding:0;display:grid;gap:clamp(1.5rem,3vw,2.5rem);grid-template-columns:repeat(auto-fill,minmax(min(100%,13rem),1fr))}
.people img{display:block;width:100%;height:auto;aspect-ratio:4/5;object-fit:cover;border-radius:var(--corner);margin-bottom:1rem}
.people h3{margin:0}.people p{margin:.35rem 0 0}.people-role{color:var(--quiet)}
.people.round img{border-radius:50%;aspect-ratio:1}.people.round .own-shape{border-radius:var(--corner)}
.people.rows ul{grid-template-columns:repeat(auto-fill,minmax(min(100%,24rem),1fr))}.people.rows li{display:grid;grid-template-columns:6rem minmax(0,1fr);gap:1.25rem;align-items:start}.people.rows li:not(:has(img)){grid-template-columns:minmax(0,1fr)}.people.rows img{margin:0;aspect-ratio:1}`,
});
