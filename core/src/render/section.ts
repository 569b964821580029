import { anchorOf, appearanceOf, type Appearance } from '../blocks/appearance.js';
import { isRightToLeft } from '../blocks/languages.js';
import { isRow, rowsOf } from '../document/rows.js';
import type { Block } from '../fields/types.js';
import { html, type Html } from '../html/index.js';
import type { RenderContext } from '../markup/context.js';
import { pictureHtml } from '../markup/parts.js';
import { blockContent } from './block.js';

/** One block as it stands on the page: the element with the block's identity, which the canvas replaces as one types. */
export function blockHtml(block: Block, around: RenderContext): Html {
  const look = appearanceOf(block.fields);
  const context = look.language ? { ...around, language: look.language } : around;
  const classes = classesOf(look);
  const anchor = anchorOf(block.fields);
  const behind =
    look.ground === 'picture' &&
    look.groundPicture &&
    html`<div class="behind">${pictureHtml({ ...look.groundPicture, isDecorative: true }, context, '100vw')}</div>`;
  return html`<section id="b-${block.id}"${classes && html` class="${classes}"`}${languageHtml(look.language)}>${behind}${anchor && html`<span id="${anchor}"></span>`}${blockContent(block, context)}</section>`;
}

/** The language of an element that has one of its own, with the direction it is written in. */
const languageHtml = (language: string): Html | null =>
  language ? html` lang="${language}" dir="${isRightToLeft(language) ? 'rtl' : 'ltr'}"` : null;

const classesOf = ({ ground, roomAbove, roomBelow, reach, aligned, shownAt }: Appearance): string =>
  [
    ground !== 'page' && `on-${ground}`,
    roomAbove !== 'usual' && `above-${roomAbove}`,
    roomBelow !== 'usual' && `below-${roomBelow}`,
    reach !== 'usual' && `reach-${reach}`,
    aligned !== 'start' && `to-${aligned}`,
    shownAt !== 'everywhere' && `only-${shownAt}`,
  ]
    .filter(Boolean)
    .join(' ');

/** The blocks of a page as they stand: those beside one another in a row of columns. */
export function blocksHtml(blocks: readonly Block[], context: RenderContext): Html[] {
  return rowsOf(blocks).map((row) =>
    isRow(row)
      ? html`<div class="row">${row.map((column) => html`<div class="column-of share-${column.share}">${column.blocks.map((block) => blockHtml(block, context))}</div>`)}</div>`
      : blockHtml(row[0], context),
  );
}

/** Room above or below a block: what it has itself, wherever its own markup keeps that. */
const roomStyle = (side: 'above' | 'below', edge: 'top' | 'bottom'): string =>
  Object.entries({ none: '0', little: 'calc(var(--section)*.35)', much: 'calc(var(--section)*1.6)' })
    .map(
      ([room, padding]) =>
        `.${side}-${room}>:not(.behind,.opening,.ask),.${side}-${room} :is(.opening-words,.ask-inner){padding-${edge}:${padding}}`,
    )
    .join('');

/** What the appearance of blocks looks like; `--veil` is how much of the strong ground lies over a picture (see `veilOf`). */
export const APPEARANCE_STYLE = `
main section{container-type:inline-size}
.on-tint{background:var(--tint)}.on-tint>*{--tint:var(--ground)}
.on-strong,.on-picture{background:var(--deep);color:var(--on-deep);--ground:var(--deep);--tint:var(--deep);--ink:var(--on-deep);--quiet:var(--on-deep);--accent:var(--on-deep);--on-accent:var(--deep)}
.on-picture{position:relative;isolation:isolate}
.behind{position:absolute;inset:0;z-index:-1;overflow:hidden;background:var(--deep)}
.behind img{width:100%!important;height:100%;max-width:none!important;object-fit:cover;aspect-ratio:auto!important;border-radius:0!important;box-shadow:none!important}
.behind::after{content:"";position:absolute;inset:0;background:color-mix(in srgb,var(--deep) var(--veil),transparent)}
${roomStyle('above', 'top')}
${roomStyle('below', 'bottom')}
.reach-narrow{--page:39rem}.reach-wide{--measure:var(--page)}.reach-full{--page:100%;--measure:100%}
.to-centre{text-align:center}.to-end{text-align:end}
.to-centre :is(.lead,p,h1,h2,h3,.kicker){margin-inline:auto}.to-end :is(.lead,p,h1,h2,h3,.kicker){margin-inline-start:auto}
.to-centre :is(.button-row,.ask-inner,.count,.logos ul){justify-content:center}.to-end :is(.button-row,.ask-inner,.count,.logos ul){justify-content:end}
@media(max-width:47.99rem){main section.only-wide{display:none}}
@media(min-width:48rem){main section.only-narrow{display:none}.row{display:flex;gap:clamp(1.5rem,4vw,3.5rem);max-width:calc(var(--page) + 2*var(--gutter));margin-inline:auto;padding-inline:var(--gutter)}.column-of{flex:1 1 0;min-width:0}.column-of.share-2{flex-grow:2}.column-of.share-3{flex-grow:3}
.column-of>section{--gutter:0px;--page:100%;--measure:100%}.column-of>section:is(.on-tint,.on-strong,.on-picture){--gutter:1.5rem}}`;
