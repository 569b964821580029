import { html } from '../../html/index.js';
import { headingAt, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import { type Frame, addressOf } from './schema.js';

export const frameView = viewOf<Frame>({
  render: ({ layout, heading, address, title, height, loads, picture, words }, context) => {
    const place = addressOf(address);
    const frame =
      place &&
      html`<iframe title="${title || place.hostname}" src="${place.href}" height="${height}" sandbox="allow-scripts allow-same-origin allow-popups allow-popups-to-escape-sandbox allow-forms allow-presentation" allow="fullscreen; picture-in-picture" loading="lazy" referrerpolicy="no-referrer"></iframe>`;
    const still =
      picture && pictureHtml(picture, context, layout === 'page' ? '(min-width: 76rem) 72rem, 100vw' : '100vw');
    // What is folded is not fetched; no script is needed to unfold it.
    return html`
    <div class="apart ${layout}">
      ${headingAt(heading, context)}
      ${
        place && loads === 'press'
          ? html`<details class="press"><summary>${still}<span class="play-words"><span class="play-label"${context.at('words')}>${words || title || place.hostname}</span> <span class="play-where">${place.hostname}</span></span></summary>${frame}</details>`
          : frame
      }
    </div>`;
  },
  style: `
.press{border-radius:var(--corner);overflow:hidden;background:var(--deep);color:var(--on-deep)}
.press summary{display:grid;list-style:none;cursor:pointer;min-height:9rem}
.press summary::-webkit-details-marker{display:none}
.press summary>*{grid-area:1/1}
.press img{display:block;width:100%;height:100%;aspect-ratio:16/9;object-fit:cover}
.press[open] summary{min-height:0}.press[open] :is(img,picture){display:none}.press[open] .play-words{margin:0;background:none}.press[open] .play-label::before{content:"\\00D7"}`,
});
