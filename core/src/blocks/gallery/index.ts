import type { PictureUse } from '../../fields/fields.js';
import { html } from '../../html/index.js';
import { pictureHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, list, pictureField } from '../fields.js';

interface Gallery {
  readonly layout: 'even' | 'first-large' | 'strip';
  readonly items: readonly { readonly picture: PictureUse | null; readonly caption: string }[];
}

export const gallery = defineBlock<Gallery>({
  label: 'Gallery',
  group: 'Show',
  glyph: [['soft', 'M5 4h15v9H5zM22 4h15v9H22zM5 15h9v7H5zM16 15h9v7h-9zM27 15h10v7H27z']],
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { even: 'Even', 'first-large': 'First large', strip: 'Strip' }),
    list(
      'items',
      'Pictures',
      'Picture',
      [2, 24],
      [
        pictureField('picture', 'Picture'),
        line('caption', 'Caption', 200, 'Visible to everyone; put what can’t be seen in the description.'),
      ],
    ),
  ],
  summary: ({ items }) => `${items.filter(({ picture }) => picture).length} pictures`,
  render: ({ layout, items }, context) => html`
    <div class="gallery ${layout}">${items.map(
      ({ picture, caption }, n) =>
        picture &&
        html`<figure>${pictureHtml(picture, context, '(min-width: 60rem) 26rem, (min-width: 34rem) 50vw, 100vw')}${caption && html`<figcaption${context.at(`items[${n}].caption`)}>${caption}</figcaption>`}</figure>`,
    )}</div>`,
  style: `
.gallery{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:var(--section) var(--gutter);display:grid;gap:clamp(.75rem,2vw,1.5rem)}
.gallery figure{margin:0}
.gallery img{display:block;width:100%;height:auto;object-fit:cover;border-radius:var(--corner);aspect-ratio:4/3}
.gallery figcaption{margin-top:.5rem;font-size:var(--small);color:var(--quiet)}
@media(min-width:34rem){.gallery{grid-template-columns:repeat(2,1fr)}}
@media(min-width:60rem){.gallery{grid-template-columns:repeat(3,1fr)}.gallery.first-large figure:first-child{grid-column:span 2;grid-row:span 2}.gallery.first-large figure:first-child img{aspect-ratio:auto;height:100%}}
.gallery.strip{display:flex;overflow-x:auto;scroll-snap-type:x mandatory;max-width:none;padding-inline:max(var(--gutter),calc((100vw - var(--page))/2))}
.gallery.strip figure{flex:0 0 min(78%,26rem);scroll-snap-align:start}`,
});
