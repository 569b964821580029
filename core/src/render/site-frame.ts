import { html, Html, type HtmlPart } from '../html/index.js';
import type { RenderContext, RenderWorld } from '../markup/context.js';
import { appearanceOf } from '../blocks/appearance.js';
import type { Block, Part } from '../fields/types.js';
import { blockContent } from './block.js';
import { contextOf } from './context.js';
import { needsScript } from './frame-script.js';
import { currentMark, frameAround, frameOf, type FilledFrame, type Slot } from '../frame/index.js';

/** What a site puts around each of its pages. */
export interface SiteFrame {
  readonly siteName: string;
  readonly homeHref: string | null;
  /** The stylesheet of its theme. */
  readonly stylesheetHref: string | null;
  /** The stylesheet of its own CSS, over that of the theme. */
  readonly siteStyleHref: string | null;
  /** The stylesheet itself, for the canvas, which has no address. */
  readonly inlineStyle: string | null;
  readonly fontHrefs: readonly string[];
  readonly icons: PageIcons | null;
  /** The icon of its theme, where it has none of its own. */
  readonly plainIcon: string | null;
  /** Addresses of the scripts of blocks in its parts. */
  readonly partScripts: readonly string[];
  /** The address of `frameScript`; without it parts are as they are without script. */
  readonly frameScript: string | null;
}

export interface PageIcons {
  readonly small: string;
  readonly large: string;
}

export const iconsHtml = ({ small, large }: PageIcons): Html =>
  html`<link rel="icon" href="${small}" sizes="32x32"><link rel="apple-touch-icon" href="${large}">`;

const text = (part: HtmlPart): string => html`${part}`.markup.replace(/\n\s*/g, '\n');

/** The parts of a site's frame as HTML: what its theme makes of it apart from what is its own, since themes are shared. */
export function siteFrameParts(site: SiteFrame, world: RenderWorld): Readonly<Record<Slot, readonly string[]>> {
  const { siteName, homeHref, stylesheetHref, siteStyleHref, fontHrefs, inlineStyle, icons, plainIcon } = site;
  const name = homeHref ? html`<a href="${homeHref}">${siteName}</a>` : html`<span>${siteName}</span>`;
  const context = partContext({ ...world, site: { name: siteName, home: homeHref } });
  const { partScripts } = site;
  const { header, footer, bands } = world.parts;
  const own = [header, footer, ...bands].filter((part): part is Part => part !== null && part !== 'none');
  const bandsAt = (place: Part['place']): Standing[] =>
    bands.filter((band) => band.place === place).map((band) => [bandHtml(band, context), band]);
  const parts: Readonly<Record<Slot, readonly HtmlPart[]>> = {
    icons: [icons ? iconsHtml(icons) : plainIcon && html`<link rel="icon" href="${plainIcon}" type="image/svg+xml">`],
    head: [
      [
        fontHrefs.map((href) => html`<link rel="preload" href="${href}" as="font" type="font/woff2" crossorigin>`),
        stylesheetHref && html`<link rel="stylesheet" href="${stylesheetHref}">`,
      ],
      [
        html`<meta property="og:site_name" content="${siteName}">`,
        siteStyleHref && html`<link rel="stylesheet" href="${siteStyleHref}">`,
        inlineStyle !== null && styleElement(inlineStyle),
        site.frameScript && own.some(needsScript) && html`<script src="${site.frameScript}"></script>`,
        partScripts.map((href) => html`<script src="${href}" defer></script>`),
      ],
    ],
    above: inView(
      [
        ...bandsAt(undefined),
        header === 'none'
          ? null
          : header
            ? [
                html`<header class="site-header as-${header.layout}${onlyAt(header)}">${insideHtml(header, context)}</header>`,
                header,
              ]
            : [html`<header class="masthead">${name}</header>`, null],
        ...bandsAt('below'),
      ],
      'stays',
    ),
    below: inView(
      [
        footer === 'none'
          ? null
          : footer
            ? [
                html`<footer class="site-footer as-${footer.layout}${onlyAt(footer)}">${insideHtml(footer, context)}</footer>`,
                footer,
              ]
            : [html`<footer class="colophon"><p>${siteName}</p></footer>`, null],
        ...bandsAt('foot'),
      ],
      'stays-below',
    ),
  };
  const textsOf = (slot: Slot) => parts[slot].map(text).filter(Boolean);
  return { icons: textsOf('icons'), head: textsOf('head'), above: textsOf('above'), below: textsOf('below') };
}

/** The same as it stands around a page. */
export function siteFrameHtml(site: SiteFrame, world: RenderWorld, pageId: number | null = null): FilledFrame {
  return frameAround(
    frameOf(siteFrameParts(site, world), (part) => part),
    pageId,
  );
}

/** Parts are on every page: a link to that page is marked once it is known, and no picture of theirs comes first. */
const partContext = (world: RenderWorld): RenderContext => ({
  ...contextOf(world, false, { isToCome: false }),
  current: (id) => new Html(currentMark(id)),
});

/** What stands there, and the part it is of, where it is one. */
type Standing = readonly [html: Html, part: Part | null] | null;

/** Parts in their order; from the first that stays in view to the last they stand in one box that does. */
function inView(all: readonly Standing[], name: string): HtmlPart[] {
  const there = all.filter((one) => one !== null);
  const staying = there.map(([, part]) => part?.stays);
  const [first, last] = [staying.findIndex(Boolean), staying.findLastIndex(Boolean)];
  const htmls = there.map(([markup]) => markup);
  if (first < 0) return htmls;
  const how = (['lower', 'returns'] as const).filter((one) => staying.includes(one)).map((one) => ` ${one}`);
  const box = html`<div class="${name}${how.join('')}">${htmls.slice(first, last + 1)}</div>`;
  return [...htmls.slice(0, first), box, ...htmls.slice(last + 1)];
}

const onlyAt = ({ shownAt }: { readonly shownAt?: Part['shownAt'] | undefined }): string =>
  shownAt ? ` only-${shownAt}` : '';

/** A notice band. One that can be closed goes by a box that is ticked, without script too; with it, it is remembered. */
function bandHtml(band: Part, context: RenderContext): Html {
  const inside = insideHtml(band, context);
  const look = `band as-${band.layout}${onlyAt(band)}`;
  if (!band.isClosable) return html`<aside class="${look}" aria-label="Notice">${inside}</aside>`;
  const close = html`<input type="checkbox" class="band-closed" aria-label="Close this notice" title="Close">`;
  return html`<aside class="${look}" aria-label="Notice" data-band="${markOf(band.layout + inside.markup)}">${inside}${close}</aside>`;
}

/** Eight digits that are others as soon as a text is (FNV-1a, 32 bit). */
function markOf(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return (hash >>> 0).toString(16).padStart(8, '0');
}

const insideHtml = ({ blocks }: Part, context: RenderContext): Html =>
  html`<div class="part">${blocks.map((block) => html`<div class="in-part of-${block.type}${onlyAt({ shownAt: shownAtOf(block) })}">${blockContent(block, context)}</div>`)}</div>`;

function shownAtOf({ fields }: Block): Part['shownAt'] {
  const { shownAt } = appearanceOf(fields);
  return shownAt === 'everywhere' ? undefined : shownAt;
}

/** A stylesheet as an element; the only thing that could end the element early is taken apart. */
function styleElement(css: string): Html {
  return new Html(`<style>${css.replaceAll('</', '<\\/')}</style>`);
}
