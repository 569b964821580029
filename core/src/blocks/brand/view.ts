import { html } from '../../html/index.js';
import { pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Brand } from './schema.js';

export const brandView = viewOf<Brand>({
  render: ({ layout, logo, name }, context) => {
    const words = name || context.site.name;
    const isDrawn = layout !== 'name' && logo !== null;
    const inside = [
      // Beside its name a logo says nothing more; alone it stands for it.
      isDrawn &&
        pictureHtml(
          { ...logo, isDecorative: layout === 'both', description: logo.description || words },
          context,
          '12rem',
        ),
      (layout !== 'logo' || !isDrawn) && html`<span${context.at('name')}>${words}</span>`,
    ];
    const { home } = context.site;
    return home === null
      ? html`<span class="brand">${inside}</span>`
      : html`<a class="brand" href="${home}">${inside}</a>`;
  },
  style: `
.brand{display:inline-flex;align-items:center;gap:.7rem;font:var(--display-weight) 1.1875rem/1.2 var(--display);letter-spacing:var(--display-spacing);color:var(--ink);text-decoration:none}
.brand img{display:block;width:auto;height:2.5rem;max-width:12rem;object-fit:contain}`,
});
