import { html } from '../../html/index.js';
import { headingAt } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import { type Frame, addressOf } from './schema.js';

export const frameView = viewOf<Frame>({
  render: ({ layout, heading, address, title, height }, context) => {
    const place = addressOf(address);
    return html`
    <div class="apart ${layout}">
      ${headingAt(heading, context)}
      ${place && html`<iframe title="${title || place.hostname}" src="${place.href}" height="${height}" sandbox="allow-scripts allow-same-origin allow-popups allow-forms" loading="lazy" referrerpolicy="no-referrer"></iframe>`}
    </div>`;
  },
  style: '',
});
