import { html, Html, type HtmlPart } from '../html/index.js';
import type { RenderContext, RenderWorld } from '../markup/context.js';
import type { Part } from '../fields/types.js';
import { blockContent } from './block.js';
import { contextOf } from './context.js';
import { currentMark, frameAround, frameOf, type Frame, type Slot } from '../frame/index.js';

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
        partScripts.map((href) => html`<script src="${href}" defer></script>`),
      ],
    ],
    above: [
      ...bands.map(
        (band) => html`<aside class="band as-${band.layout}" aria-label="Notice">${insideHtml(band, context)}</aside>`,
      ),
      header === 'none'
        ? null
        : header
          ? html`<header class="site-header as-${header.layout}">${insideHtml(header, context)}</header>`
          : html`<header class="masthead">${name}</header>`,
    ],
    below: [
      footer === 'none'
        ? null
        : footer
          ? html`<footer class="site-footer as-${footer.layout}">${insideHtml(footer, context)}</footer>`
          : html`<footer class="colophon"><p>${siteName}</p></footer>`,
    ],
  };
  const textsOf = (slot: Slot) => parts[slot].map(text).filter(Boolean);
  return { icons: textsOf('icons'), head: textsOf('head'), above: textsOf('above'), below: textsOf('below') };
}

/** The same as it stands around a page. */
export function siteFrameHtml(site: SiteFrame, world: RenderWorld, pageId: number | null = null): Frame {
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

const insideHtml = ({ blocks }: Part, context: RenderContext): Html =>
  html`<div class="part">${blocks.map((block) => html`<div class="in-part of-${block.type}">${blockContent(block, context)}</div>`)}</div>`;

/** A stylesheet as an element; the only thing that could end the element early is taken apart. */
function styleElement(css: string): Html {
  return new Html(`<style>${css.replaceAll('</', '<\\/')}</style>`);
}
