import { html } from '../../html/index.js';
import { pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Picture } from './schema.js';

export const pictureView = viewOf<Picture>({
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
