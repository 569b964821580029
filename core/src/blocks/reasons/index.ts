import type { PictureUse } from '../../document/fields.js';
import { html } from '../../render/html.js';
import { headingAt, linesAt, pictureHtml } from '../../render/parts.js';
import { defineBlock } from '../definition.js';
import { line, list, paragraph, pictureField } from '../fields.js';

interface Reasons {
  readonly heading: string;
  readonly items: readonly { readonly title: string; readonly text: string; readonly picture: PictureUse | null }[];
}

export const reasons = defineBlock<Reasons>({
  label: 'Reasons',
  group: 'Explain',
  glyph: [
    ['soft', 'M5 5h9v9H5zM17 5h9v9h-9zM29 5h8v9h-8z'],
    ['ink', 'M5 17h9v1.5H5zM17 17h9v1.5h-9zM29 17h8v1.5h-8z'],
  ],
  example: {
    heading: '‹Why people choose this›',
    items: ['first', 'second', 'third'].map((which) => ({
      title: `‹The ${which} reason›`,
      text: '‹What it means for them.›',
      picture: null,
    })),
  },
  firstHeadings: 0,
  fields: [
    line('heading', 'Heading', 200),
    list(
      'items',
      'Reasons',
      'Reason',
      [3, 6],
      [line('title', 'Title', 120), paragraph('text', 'Text', 600), pictureField('picture', 'Picture')],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ title }) => title).join(' · '),
  render: ({ heading, items }, context) => html`
    <div class="reasons">
      ${headingAt(heading, context)}
      <ul class="reasons-list n${items.length}">${items.map(
        ({ title, text, picture }, n) => html`<li>
          ${picture && pictureHtml(picture, context, '(min-width: 60rem) 24rem, (min-width: 40rem) 50vw, 100vw')}
          <h3${context.at(`items[${n}].title`)}>${title}</h3>${linesAt(text, `items[${n}].text`, context)}</li>`,
      )}</ul>
    </div>`,
  style: `
.reasons{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.reasons h2{margin:0 0 clamp(2rem,4vw,3.5rem);max-width:22em}
.reasons-list{list-style:none;margin:0;padding:0;display:grid;gap:clamp(2rem,4vw,3rem);grid-template-columns:repeat(auto-fit,minmax(min(100%,17rem),1fr))}
@media(min-width:60rem){.reasons-list.n3,.reasons-list.n5,.reasons-list.n6{grid-template-columns:repeat(3,1fr)}.reasons-list.n4{grid-template-columns:repeat(2,1fr)}}
.reasons-list li{border-top:2px solid var(--accent);padding-top:1.25rem}
.reasons-list li:has(img){border-top:0;padding-top:0}
.reasons-list img{display:block;width:100%;height:auto;aspect-ratio:4/3;object-fit:cover;border-radius:var(--corner);margin-bottom:1.25rem}
.reasons-list h3{margin:0 0 .5rem}
.reasons-list p{margin:0;color:var(--quiet)}`,
});
