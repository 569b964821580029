import { html, type Html } from '../../html/index.js';
import type { RenderContext } from '../../markup/context.js';
import { APART_SANDBOX } from '../../markup/apart.js';
import { headingAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { OwnHtml } from './schema.js';

const shownBy = (place: ReturnType<RenderContext['apart']>): Html => {
  if ('src' in place) return html`src="${place.src}" sandbox="${APART_SANDBOX}"`;
  return 'srcdoc' in place ? html`srcdoc="${place.srcdoc}" sandbox=""` : html`data-markup="${place.held}" sandbox=""`;
};

export const ownHtmlView = viewOf<OwnHtml>({
  render: ({ layout, heading, title, code: text, height }, context) => {
    const place = text ? context.apart(text) : null;
    return html`
    <div class="apart ${layout}">
      ${headingAt(heading, context)}
      ${place && html`<iframe title="${title || 'Own content'}" ${shownBy(place)} height="${height}" loading="lazy"></iframe>`}
    </div>`;
  },
  style: `
.apart{margin:0 auto;max-width:calc(var(--page) + 2*var(--gutter));padding:calc(var(--section)*.6) var(--gutter)}
.apart.narrow{max-width:calc(var(--measure) + 2*var(--gutter))}
.apart.full{max-width:none;padding-inline:0}
.apart h2{margin:0 0 1.25rem}
.apart iframe{display:block;width:100%;border:0}`,
});
