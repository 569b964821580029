import type { Button } from '../../fields/fields.js';
import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { button, choice, line, list } from '../fields.js';

interface LinkList {
  readonly layout: 'filled' | 'framed' | 'lines';
  readonly heading: string;
  readonly items: readonly { readonly button: Button | null; readonly words: string }[];
}

export const linkList = defineBlock<LinkList>({
  label: 'Link list',
  group: 'Ask',
  glyph: [['moss', 'M9 5h24v4H9zM9 11h24v4H9zM9 17h24v4H9z']],
  example: { items: [1, 2, 3].map(() => ({ button: { label: '‹Where it leads›', target: null }, words: '' })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { filled: 'Filled', framed: 'Framed', lines: 'In lines' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Links',
      'Link',
      [1, 40],
      [button('button', 'Link'), line('words', 'Text next to it', 160, 'What it leads to.')],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ button }) => button?.label ?? '').join(' · '),
  render: ({ layout, heading, items }, context) => html`
    <nav class="link-list ${layout}" aria-label="${heading || 'Links'}">
      ${headingAt(heading, context)}
      <ul>${items.map(({ button, words }, n) => {
        const href = button?.target ? context.hrefOf(button.target) : null;
        return (
          button?.label &&
          href !== null &&
          html`<li><a href="${href}"><span class="link-label"${context.at(`items[${n}].button.label`)}>${button.label}</span>${words && html` <span class="link-words"${context.at(`items[${n}].words`)}>${words}</span>`}</a></li>`
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
.link-list.framed a{background:none;color:var(--ink);box-shadow:inset 0 0 0 2px var(--ink)}
.link-list.lines ul{gap:0}.link-list.lines a{background:none;color:var(--ink);text-align:start;padding-inline:0;border-radius:0;border-bottom:1px solid color-mix(in srgb,var(--ink) 18%,transparent)}.link-list.lines .link-label{text-decoration:underline;text-decoration-thickness:.07em;text-underline-offset:.18em}`,
});
