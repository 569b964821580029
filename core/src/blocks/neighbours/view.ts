import { sideMarks } from '../../frame/index.js';
import { html, Html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { Neighbours } from './schema.js';

export const neighboursView = viewOf<Neighbours>({
  render: ({ layout, previous, next }, context) => {
    const side = (of: 'previous' | 'next', words: string) =>
      new Html(sideMarks(of, html`${words && html`<small${context.at(of)}>${words}</small>`}`.markup));
    const shell = html`<nav class="neighbours as-${layout}" aria-label="Previous and next page">${side('previous', previous)}${side('next', next)}</nav>`;
    return context.ways('beside', shell.markup, 'This page has no neighbours in the page tree yet.');
  },
  style: `
.neighbours{display:flex;flex-wrap:wrap;justify-content:space-between;gap:.75rem;max-width:var(--page);margin:0 auto;padding:1rem var(--gutter)}
.neighbours a{display:grid;gap:.125rem;flex:0 1 20rem;padding:.75rem 1rem;color:inherit;text-decoration:none;border:1px solid color-mix(in srgb,var(--ink) 18%,transparent);border-radius:var(--corner)}
.neighbours.as-lines{border-block:1px solid color-mix(in srgb,var(--ink) 18%,transparent)}.neighbours:is(.as-lines,.as-plain) a{padding-inline:0;border:0}
.neighbours a:hover span{text-decoration:underline}.neighbours small{color:color-mix(in srgb,var(--ink) 70%,var(--ground))}.neighbours span{font-weight:600}.neighbours .is-next{margin-inline-start:auto;text-align:end}`,
});
