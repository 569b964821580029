import { html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import { viewOf } from '../definition.js';
import type { Profiles } from './schema.js';

/** Where else the one who publishes the page can be found: `rel="me"` says that it is the same. */
export const profilesView = viewOf<Profiles>({
  render: ({ layout, heading, items }, context) => {
    const entries = items.flatMap(({ button }, n) => {
      const href = button?.target ? context.hrefOf(button.target) : null;
      if (!button?.label || href === null) return [];
      const sign = iconHtml(button.icon);
      const isSign = layout === 'signs' && sign !== null;
      return [
        html`<li><a href="${href}" rel="me">${sign}<span${isSign ? html` class="said"` : null}${context.at(`items[${n}].button.label`)}>${button.label}</span></a></li>`,
      ];
    });
    if (!entries.length) return context.ways('menu', '', 'None of these profiles has an address yet.');
    const head = layout !== 'signs' && heading && html`<p class="menu-heading"${context.at('heading')}>${heading}</p>`;
    return html`<nav class="profiles as-${layout}" aria-label="${heading || 'Elsewhere'}">${head}<ul>${entries}</ul></nav>`;
  },
  style: `
.profiles ul{list-style:none;margin:0;padding:0;display:flex;flex-wrap:wrap;gap:.25rem 1.25rem}.profiles.as-list ul{display:grid;gap:0}
.profiles a{display:inline-flex;align-items:center;gap:.5em;min-height:1.75rem;padding-block:.2rem;color:var(--ink);text-decoration:none}.profiles a:hover{text-decoration:underline}
.profiles.as-signs ul{gap:.25rem}.profiles.as-signs a{min-width:2.75rem;min-height:2.75rem}.profiles li{min-width:0}.profiles a span{overflow-wrap:anywhere}.profiles.as-signs .icon{width:1.4rem;height:1.4rem}
.profiles .said{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap}`,
});
