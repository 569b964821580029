import { html, type Html } from '../../html/index.js';
import { iconHtml } from '../../icons/index.js';
import type { RenderContext } from '../../markup/context.js';
import { viewOf } from '../definition.js';
import { columnsIn, type LinkColumns } from './schema.js';

function entryHtml({ items }: LinkColumns, n: number, context: RenderContext): Html[] {
  const button = items[n]?.button;
  const target = button?.target;
  if (!button?.label || !target || (target.kind === 'page' && !context.isLive(target.pageId))) return [];
  const href = context.hrefOf(target);
  if (href === null) return [];
  const current = target.kind === 'page' ? context.current(target.pageId) : null;
  return [
    html`<li><a href="${href}"${current}>${iconHtml(button.icon)}<span${context.at(`items[${n}].button.label`)}>${button.label}</span></a></li>`,
  ];
}

export const linkColumnsView = viewOf<LinkColumns>({
  render: (values, context) => {
    // A column of which nothing leads anywhere now goes with its heading, and comes back with its pages.
    const columns = columnsIn(values).flatMap(({ heading, at, entries }) => {
      const links = entries.flatMap((n) => entryHtml(values, n, context));
      if (!links.length) return [];
      const head = heading && html`<p class="menu-heading"${context.at(`items[${at}].heading`)}>${heading}</p>`;
      const label = heading ? html` aria-label="${heading}"` : null;
      return [html`<div class="link-column">${head}<ul${label}>${links}</ul></div>`];
    });
    return columns.length
      ? html`<nav class="link-columns as-${values.layout}" aria-label="Links">${columns}</nav>`
      : context.ways('menu', '', 'None of these links leads to a live page yet.');
  },
  style: `
.link-columns{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(100%,10rem),1fr));gap:1.5rem 2rem}.link-columns.as-close{display:flex;flex-wrap:wrap;gap:1.5rem 3rem}
.link-columns.as-rows{grid-template-columns:none;gap:.5rem}.link-columns.as-rows .link-column,.link-columns.as-rows ul{display:flex;flex-wrap:wrap;align-items:baseline;gap:.1rem 1.25rem}.link-columns.as-rows .menu-heading{margin:0}
.link-columns ul{list-style:none;margin:0;padding:0}.link-columns .menu-heading{margin:0 0 .4rem;font-weight:650}
.link-columns a{display:inline-block;min-height:1.75rem;padding-block:.2rem;color:var(--ink);text-decoration:none}.link-columns a:hover{text-decoration:underline}.link-columns a[aria-current]{font-weight:650;box-shadow:inset 0 -2px 0 var(--accent)}`,
});
