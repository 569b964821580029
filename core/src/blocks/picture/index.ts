import type { PictureUse } from '../../fields/fields.js';
import { html } from '../../html/index.js';
import { pictureHtml } from '../../markup/parts.js';
import { defineBlock } from '../definition.js';
import { choice, line, pictureField } from '../fields.js';

interface Picture {
  readonly picture: PictureUse | null;
  readonly caption: string;
  readonly width: 'page' | 'narrow' | 'full';
}

export const picture = defineBlock<Picture>({
  label: 'Picture',
  group: 'Show',
  glyph: [
    ['soft', 'M5 4h32v18H5z'],
    ['ink', 'm9 20 8-9 6 6 4-4 6 7z'],
  ],
  firstHeadings: 0,
  fields: [
    pictureField('picture', 'Picture'),
    line('caption', 'Caption', 300, 'Visible to everyone; put what can’t be seen in the description.'),
    choice('width', 'Width', { page: 'Page', narrow: 'As wide as text', full: 'Full' }),
  ],
  summary: ({ caption, picture: use }) => caption || use?.description || '',
  render: ({ picture: use, caption, width }, context) => html`
    <figure class="figure ${width}">
      ${use && pictureHtml(use, context, width === 'full' ? '100vw' : '(min-width: 76rem) 72rem, 100vw')}
      ${caption && html`<figcaption${context.at('caption')}>${caption}</figcaption>`}
    </figure>`,
  style: `
.figure{margin:0 auto;padding:calc(var(--section)*.6) var(--gutter);max-width:calc(var(--page) + 2*var(--gutter))}
.figure.narrow{max-width:calc(var(--measure) + 2*var(--gutter))}
.figure.narrow img{aspect-ratio:auto}
.figure.full{max-width:none;padding-inline:0}
.figure img{display:block;width:100%;height:auto;border-radius:var(--corner);aspect-ratio:16/9;object-fit:cover}
.figure.full img{border-radius:0;aspect-ratio:21/9}
.figure figcaption{margin-top:.75rem;font-size:var(--small);color:var(--quiet)}
.figure.full figcaption{padding-inline:var(--gutter)}`,
});
