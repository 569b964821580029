import { html } from '../../html/index.js';
import { pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Gallery } from './schema.js';

export const galleryView = viewOf<Gallery>({
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
@container(min-width:34rem){.gallery{grid-template-columns:repeat(2,1fr)}}
@container(min-width:60rem){.gallery{grid-template-columns:repeat(3,1fr)}.gallery.first-large figure:first-child{grid-column:span 2;grid-row:span 2}.gallery.first-large figure:first-child img{aspect-ratio:auto;height:100%}}
.gallery.strip{display:flex;overflow-x:auto;scroll-snap-type:x mandatory;max-width:none;padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}
.gallery.strip figure{flex:0 0 min(78%,26rem);scroll-snap-align:start}`,
});
