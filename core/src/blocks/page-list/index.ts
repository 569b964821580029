import type { Reference } from '../../fields/fields.js';
import type { PageId } from '../../plan/index.js';
import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, list, reference } from '../fields.js';

interface PageList {
  readonly layout: 'filled' | 'framed' | 'lines';
  readonly heading: string;
  readonly items: readonly { readonly page: Reference | null; readonly words: string }[];
}

/** Pages by reference: their titles and addresses follow them, and those that are not live at a moment are left out. */
export const pageList = defineBlock<PageList>({
  label: 'List of pages',
  group: 'Ask',
  glyph: [
    ['moss', 'M9 5h24v4H9zM9 11h24v4H9z'],
    ['soft', 'M9 17h24v4H9z'],
  ],
  example: { items: [{ page: null, words: '' }] },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { filled: 'Filled', framed: 'Framed', lines: 'In lines' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Pages',
      'Page',
      [1, 60],
      [
        reference('page', 'Page', 'page', 'Shows the page’s title and follows it. Left out while the page isn’t live.'),
        line('words', 'Text next to it', 160, 'What it leads to.'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || `${items.length} ${items.length === 1 ? 'page' : 'pages'}`,
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
