import { html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import { headingAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { LinkList } from './schema.js';

export const linkListView = viewOf<LinkList>({
  render: ({ layout, heading, items }, context) => html`
    <nav class="link-list ${layout}" aria-label="${heading || 'Links'}">
      ${headingAt(heading, context)}
      <ul>${items.map(({ button, words }, n) => {
        const href = button?.target ? context.hrefOf(button.target) : null;
        return (
          button?.label &&
          href !== null &&
          html`<li><a href="${href}">${iconHtml(button.icon)}<span class="link-label"${context.at(`items[${n}].button.label`)}>${button.label}</span>${words && html` <span class="link-words"${context.at(`items[${n}].words`)}>${words}</span>`}</a></li>`
        );
      })}</ul>
    </nav>`,
  style: `
.link-list{max-width:calc(36rem + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.6) var(--gutter)}
.link-list h2{margin:0 0 1.5rem;font-size:var(--step-2)}
.link-list ul{list-style:none;margin:0;padding:0;display:grid;gap:.75rem}
.link-list a{display:block;padding:1rem 1.25rem;text-decoration:none;border-radius:var(--corner);background:var(--accent);color:var(--on-accent);text-align:center}
.link-list a:hover{filter:brightness(1.06)}
.link-label{font-weight:650;display:block}.link-words{font-size:var(--small);display:block;margin-top:.15rem}
.link-list a:has(>.icon){display:grid;grid-template-columns:auto minmax(0,1fr);column-gap:.75rem;align-items:center}.link-list .icon{grid-row:1/3;width:1.4rem;height:1.4rem}
.link-list.framed a{background:none;color:var(--ink);box-shadow:inset 0 0 0 2px var(--ink)}
.link-list.lines ul{gap:0}.link-list.lines a{background:none;color:var(--ink);text-align:start;padding-inline:0;border-radius:0;border-bottom:1px solid color-mix(in srgb,var(--ink) 18%,transparent)}.link-list.lines .link-label{text-decoration:underline;text-decoration-thickness:.07em;text-underline-offset:.18em}`,
});
