import { html } from '../../html/index.js';
import { viewOf } from '../definition.js';
import type { Divider } from './schema.js';

export const dividerView = viewOf<Divider>({
  render: ({ layout }) =>
    layout === 'room' ? html`<div class="divider room"></div>` : html`<div class="divider ${layout}"><hr></div>`,
  style: `
.divider{max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding:calc(var(--section)*.3) var(--gutter)}
.divider hr{margin:0;border:0;border-top:1px solid color-mix(in srgb,var(--ink) 22%,transparent)}
.divider.mark hr{border:0;width:3.5rem;height:3px;background:var(--accent);margin-inline:auto}
.divider.room{padding-block:calc(var(--section)*.5)}`,
});
