import { html } from '../../html/index.js';
import { nameOfLanguage } from '../languages.js';
import { headingAt, pictureHtml } from '../../markup/parts.js';
import { viewOf } from '../definition.js';
import type { Video } from './schema.js';

export const videoView = viewOf<Video>({
  render: ({ layout, heading, picture, file, button, caption, captions, captionsIn }, context) => {
    const said = captions ? context.fileOf(captions.id) : null;
    const spoken = captionsIn || context.language;
    const film = file ? context.fileOf(file.id) : null;
    const poster = picture && context.pictureOf(picture.pictureId)?.variants.at(-1)?.src;
    const href = button?.target ? context.hrefOf(button.target) : null;
    const host = button?.target?.kind === 'outside' ? new URL(button.target.url).hostname : null;
    return html`
    <figure class="video ${layout}">
      ${headingAt(heading, context)}
      ${film && html`<video class="player" controls preload="none" width="1280" height="720"${poster && html` poster="${poster}"`}><source src="${film.src}" type="video/${film.ending}">${said && html`<track kind="captions" src="${said.src}" srclang="${spoken}" label="${nameOfLanguage(spoken)}" default>`}<a href="${film.src}">${film.name}</a></video>`}
      ${
        !film &&
        button?.label &&
        href !== null &&
        html`<a class="video-play" href="${href}">${picture && pictureHtml(picture, context, layout === 'page' ? '(min-width: 76rem) 72rem, 100vw' : '100vw')}<span class="play-words"><span class="play-label"${context.at('button.label')}>${button.label}</span>${host && html` <span class="play-where">plays at ${host}</span>`}</span></a>`
      }
      ${caption && html`<figcaption${context.at('caption')}>${caption}</figcaption>`}
    </figure>`;
  },
  style: `
.video{margin:0 auto;max-width:calc(var(--page) + 2*var(--gutter));padding:calc(var(--section)*.7) var(--gutter)}
.video h2{margin:0 0 1.5rem}
.video-play{display:grid;border-radius:var(--corner);overflow:hidden;background:var(--deep);color:var(--on-deep);text-decoration:none;min-height:9rem}
.video-play>*{grid-area:1/1}
.video img{display:block;width:100%;height:100%;aspect-ratio:16/9;object-fit:cover}
.player{display:block;width:100%;height:auto;border-radius:var(--corner);background:var(--deep)}
.play-words{align-self:end;justify-self:start;margin:1.25rem;padding:.75rem 1.25rem;border-radius:var(--corner);background:var(--deep);display:flex;flex-direction:column}
.play-label{font-weight:650}.play-label::before{content:"\\25B6\\FE0E";margin-inline-end:.6em;font-size:.8em}
.play-where{font-size:var(--small)}
.video-play:hover .play-words{filter:brightness(1.15)}
.video.full{max-width:none;padding-inline:0}.video.full .video-play{border-radius:0}.video.full h2,.video.full figcaption{padding-inline:max(var(--gutter),calc((100cqi - var(--page))/2))}
.video.narrow{max-width:calc(var(--measure) + 2*var(--gutter))}
.video figcaption{margin-top:.75rem;font-size:var(--small);color:var(--quiet)}`,
});
