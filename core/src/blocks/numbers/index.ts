import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, list } from '../fields.js';

interface Numbers {
  readonly layout: 'plain' | 'ruled' | 'deep';
  readonly heading: string;
  readonly items: readonly { readonly figure: string; readonly words: string }[];
}

export const numbers = defineBlock<Numbers>({
  label: 'Numbers',
  group: 'Prove',
  glyph: [
    ['ink', 'M6 7h7v6H6zM18 7h7v6h-7zM30 7h6v6h-6z'],
    ['soft', 'M5 16h9v1.5H5zM17 16h9v1.5h-9zM29 16h8v1.5h-8z'],
  ],
  example: { items: [1, 2, 3].map((n) => ({ figure: `‹${n}00›`, words: '‹what it counts›' })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', ruled: 'Ruled', deep: 'On dark' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Numbers',
      'Number',
      [2, 6],
      [
        line('figure', 'Number', 24, 'With its unit: 42 km, 1,200 guests.'),
        line('words', 'What it counts', 120, 'Say compared with what, or since when.'),
      ],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ figure, words }) => `${figure} ${words}`).join(' · '),
  render: ({ layout, heading, items }, context) => html`
    <div class="numbers ${layout}">
      ${headingAt(heading, context)}
      <dl>${items.map(
        ({ figure, words }, n) =>
          html`<div><dt${context.at(`items[${n}].words`)}>${words}</dt><dd${context.at(`items[${n}].figure`)}>${figure}</dd></div>`,
      )}</dl>
    </div>`,
  style: `
.numbers{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter)}
.numbers h2{margin:0 0 2rem}
.numbers dl{margin:0;display:grid;gap:2rem clamp(2rem,5vw,4rem);grid-template-columns:repeat(auto-fit,minmax(min(100%,9rem),1fr))}
.numbers dl>div{display:flex;flex-direction:column-reverse;justify-content:flex-end}
.numbers dd{margin:0;font:var(--display-weight) var(--step-5)/1 var(--display);letter-spacing:var(--display-spacing);font-variant-numeric:tabular-nums}
.numbers dt{margin-top:.5rem;color:var(--quiet);max-width:18em}
.numbers.ruled dl>div{border-top:2px solid var(--accent);padding-top:1rem;justify-content:flex-end}
.numbers.deep{max-width:none;background:var(--deep);color:var(--on-deep);padding-inline:max(var(--gutter),calc((100vw - var(--page))/2))}
.numbers.deep dt{color:inherit}`,
});
