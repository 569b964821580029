import { entriesMark } from '../../frame/index.js';
import { html, Html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { WayUp } from './schema.js';

export const wayUpView = viewOf<WayUp>({
  render: ({ layout, ends }, context) => {
    const shell = html`<nav class="way-up as-${layout}" aria-label="Breadcrumbs"><ol itemscope itemtype="https://schema.org/BreadcrumbList">${new Html(entriesMark())}</ol></nav>`;
    return context.ways(`way ${ends}`, shell.markup, 'This page has no place in the page tree yet.');
  },
  style: `
.way-up ol{display:flex;flex-wrap:wrap;gap:.25rem .5rem;max-width:var(--page);margin:0 auto;padding:.5rem var(--gutter);list-style:none;font-size:.9375rem}
.way-up li+li::before{content:"/";margin-inline-end:.5rem;color:color-mix(in srgb,var(--ink) 55%,transparent)}
.way-up.as-arrows li+li::before{content:"→"}[dir=rtl] .way-up.as-arrows li+li::before{content:"←"}
.way-up.as-boxes li+li::before{content:none}.way-up.as-boxes a{padding:.15rem .6rem;border:1px solid color-mix(in srgb,var(--ink) 18%,transparent);border-radius:var(--corner);text-decoration:none}
.way-up a{display:inline-block;min-height:1.5rem;color:inherit}.way-up a[aria-current]{text-decoration:none;font-weight:650}`,
});
