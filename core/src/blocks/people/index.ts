import type { PictureUse } from '../../fields/fields.js';
import { html } from '../../html/index.js';
import { headingAt, linesAt, pictureHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, list, paragraph, pictureField } from '../fields.js';

interface People {
  readonly layout: 'portraits' | 'round' | 'rows';
  readonly heading: string;
  readonly items: readonly {
    readonly name: string;
    readonly role: string;
    readonly text: string;
    readonly picture: PictureUse | null;
  }[];
}

export const people = defineBlock<People>({
  label: 'People',
  group: 'Prove',
  glyph: [
    ['soft', 'M8 5h6v6H8zM18 5h6v6h-6zM28 5h6v6h-6z'],
    ['ink', 'M7 14h8v1.5H7zM17 14h8v1.5h-8zM27 14h8v1.5h-8z'],
  ],
  example: {
    heading: '‹Who you meet›',
    items: [1, 2, 3].map(() => ({ name: '‹Name›', role: '‹What they do›', text: '', picture: null })),
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { portraits: 'Portraits', round: 'Round', rows: 'In rows' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'People',
      'Person',
      [1, 24],
      [
        line('name', 'Name', 120),
        line('role', 'What they do', 120, 'What they do for visitors, not their job title.'),
        paragraph('text', 'Text', 600),
        pictureField('picture', 'Picture'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ name }) => name).join(' · '),
  render: ({ layout, heading, items }, context) => html`
    <div class="people ${layout}">
      ${headingAt(heading, context)}
      <ul>${items.map(
        ({ name, role, text, picture }, n) => html`<li>
          ${picture && pictureHtml(picture, context, '(min-width: 60rem) 17rem, 50vw')}
          <div><h3${context.at(`items[${n}].name`)}>${name}</h3>${role && html`<p class="people-role"${context.at(`items[${n}].role`)}>${role}</p>`}${linesAt(text, `items[${n}].text`, context)}</div></li>`,
      )}</ul>
    </div>`,
  style: `
.people{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.people h2{margin:0 0 clamp(1.75rem,4vw,3rem)}
.people ul{list-style:none;margin:0;padding:0;display:grid;gap:clamp(1.5rem,3vw,2.5rem);grid-template-columns:repeat(auto-fill,minmax(min(100%,13rem),1fr))}
.people img{display:block;width:100%;height:auto;aspect-ratio:4/5;object-fit:cover;border-radius:var(--corner);margin-bottom:1rem}
.people h3{margin:0}.people p{margin:.35rem 0 0}.people-role{color:var(--quiet)}
.people.round img{border-radius:50%;aspect-ratio:1}
.people.rows ul{grid-template-columns:repeat(auto-fill,minmax(min(100%,24rem),1fr))}.people.rows li{display:grid;grid-template-columns:6rem minmax(0,1fr);gap:1.25rem;align-items:start}.people.rows li:not(:has(img)){grid-template-columns:minmax(0,1fr)}.people.rows img{margin:0;aspect-ratio:1}`,
});
