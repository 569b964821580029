import { html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { LegalLine } from './schema.js';

export const legalLineView = viewOf<LegalLine>({
  render: ({ layout, words, items }, context) => html`
    <div class="legal ${layout}">
      ${words && html`<span${context.at('words')}>${words}</span>`}
      ${items.map(({ button }, n) => {
        const target = button?.target;
        const href = target ? context.hrefOf(target) : null;
        return (
          button?.label &&
          href !== null &&
          html`<a href="${href}"${target?.kind === 'page' && context.current(target.pageId)}${context.at(`items[${n}].button.label`)}>${button.label}</a>`
        );
      })}
    </div>`,
  style: `
.legal{display:flex;flex-wrap:wrap;gap:.4rem 1.25rem;font-size:var(--small);color:var(--quiet)}
.legal a{color:inherit;min-height:1.5rem}
.legal.centred{justify-content:center}.legal.apart>span{margin-inline-end:auto}`,
});
