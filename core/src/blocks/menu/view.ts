import { html, type Html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import type { RenderContext } from '../../markup/context.js';
import { viewOf } from '../definition.js';
import type { Menu } from './schema.js';

/** Entries that lead somewhere now; what leads nowhere comes back by itself. */
function entriesOf({ items }: Menu, context: RenderContext, isNamed: boolean): Html[] {
  return items.flatMap(({ button, shownAt }, n) => {
    const target = button?.target;
    if (!button?.label || !target) return [];
    const href = target.kind === 'page' && !context.isLive(target.pageId) ? null : context.hrefOf(target);
    if (href === null) return [];
    const current = target.kind === 'page' ? context.current(target.pageId) : null;
    const shown = shownAt === 'everywhere' ? null : html` class="only-${shownAt}"`;
    return [
      html`<li${shown}><a href="${href}"${current}>${iconHtml(button.icon)}<span${isNamed && context.at(`items[${n}].button.label`)}>${button.label}</span></a></li>`,
    ];
  });
}

export const menuView = viewOf<Menu>({
  render: (values, context) => {
    const { layout, heading } = values;
    // Both lists are the same words: on the canvas one of them is typed on.
    const entries = entriesOf(values, context, true);
    const name = heading || 'Menu';
    if (!entries.length) return context.ways('menu', '', 'Nothing in this menu leads to a live page yet.');
    const list = html`<ul>${entries}</ul>`;
    if (layout === 'list')
      return html`<nav class="menu as-list" aria-label="${name}">${heading && html`<p class="menu-heading"${context.at('heading')}>${heading}</p>`}${list}</nav>`;
    // Opens without script; where there is room the entries stand in a row instead.
    const folded = html`<details class="menu-folded"><summary>${name}</summary><ul>${entriesOf(values, context, layout === 'folded')}</ul></details>`;
    return html`<nav class="menu as-${layout}" aria-label="${name}">${folded}${layout === 'row' && list}</nav>`;
  },
  style: `
.menu ul{list-style:none;margin:0;padding:0}
.menu a{display:inline-block;min-height:1.75rem;padding-block:.2rem;color:var(--ink);text-decoration:none}
.menu a:hover{text-decoration:underline}.menu a[aria-current]{font-weight:650;box-shadow:inset 0 -2px 0 var(--accent)}
.menu .icon{margin-inline-end:.4em}
.menu-heading{margin:0 0 .5rem;font-weight:650}
.menu.as-row>ul{display:none}
.menu-folded{position:relative}
.menu-folded summary{cursor:pointer;min-height:2.75rem;padding:.6rem .25rem;font-weight:600}
.menu-folded[open]>ul{position:absolute;inset-inline-end:0;z-index:5;min-width:14rem;max-height:75vh;overflow:auto;padding:.5rem;background:var(--ground);border:1px solid color-mix(in srgb,var(--ink) 18%,transparent);border-radius:var(--corner);box-shadow:0 .75rem 2rem -.75rem color-mix(in srgb,var(--ink) 40%,transparent)}
.menu-folded li a{display:block;padding:.6rem .75rem}
@media(max-width:47.99rem){.menu .only-wide{display:none}}
@media(min-width:48rem){.menu .only-narrow{display:none}.menu.as-row>ul{display:flex;flex-wrap:wrap;gap:.25rem 1.5rem}.menu.as-row>.menu-folded{display:none}}`,
});
