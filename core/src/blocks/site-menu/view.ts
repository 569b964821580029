import { entriesMark } from '../../frame/index.js';
import { html, Html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { SiteMenu } from './schema.js';

const entries = (isFolded: boolean) => new Html(entriesMark(isFolded));

/** The same markup as a menu by hand, with its entries filled in where pages and frames are put together. */
export const siteMenuView = viewOf<SiteMenu>({
  render: ({ layout, menu, name, heading }, context) => {
    const asked = menu === 'other' ? name.trim().toLowerCase() : menu;
    if (!/^[a-z0-9-]+$/.test(asked)) return context.ways('menu', '', 'Choose a menu of the site.');
    const label = heading || 'Menu';
    const head = layout === 'list' && heading && html`<p class="menu-heading"${context.at('heading')}>${heading}</p>`;
    const plain = html`${head}<ul>${entries(layout !== 'list')}</ul>`;
    const folded = html`<details class="menu-folded"><summary>${label}</summary><ul>${entries(true)}</ul></details>`;
    const inside = layout === 'list' ? plain : html`${folded}${layout === 'row' && plain}`;
    const shell = html`<nav class="menu as-${layout}" aria-label="${label}">${inside}</nav>`;
    return context.ways(`menu ${asked}`, shell.markup, 'This site has no such menu yet, or none of its pages is live.');
  },
  style: `
.menu ul ul{padding-inline-start:1rem}.menu-head{display:inline-block;padding-block:.2rem;font-weight:650}
.menu.as-row>ul>li{display:flex;align-items:center;position:relative}
.menu-below summary{cursor:pointer;min-width:1.75rem;min-height:1.75rem;padding:.2rem .35rem}
.menu.as-row>ul .menu-below[open]>ul{position:absolute;inset-inline-start:0;top:100%;z-index:5;min-width:12rem;padding:.5rem .75rem;background:var(--ground);border:1px solid color-mix(in srgb,var(--ink) 18%,transparent);border-radius:var(--corner);box-shadow:0 .75rem 2rem -.75rem color-mix(in srgb,var(--ink) 40%,transparent)}
.ways-empty{margin:0;padding:.5rem .75rem;border:1px dashed color-mix(in srgb,var(--ink) 35%,transparent);font-size:.875rem}`,
});
