import type { PageId } from '../../plan/index.js';
import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { PageList } from './schema.js';

export const pageListView = viewOf<PageList>({
  render: ({ layout, heading, items }, context) => html`
    <nav class="link-list ${layout}" aria-label="${heading || 'Pages'}">
      ${headingAt(heading, context)}
      <ul>${items.map(({ page, words }, n) => {
        const id = page?.id as PageId | undefined;
        const title = id === undefined ? null : context.titleOf(id);
        const href = id === undefined ? null : context.pageHref(id);
        return (
          title !== null &&
          href !== null &&
          html`<li><a href="${href}"><span class="link-label">${title}</span>${words && html` <span class="link-words"${context.at(`items[${n}].words`)}>${words}</span>`}</a></li>`
        );
      })}</ul>
    </nav>`,
  style: '',
});
