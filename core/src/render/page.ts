import {
  METADATA_TEXTS,
  type Block,
  type HeadElement,
  type Metadata,
  type MetadataText,
  type PageDocument,
} from '../fields/types.js';
import { compose, cutPage, slotMark, type Slot } from '../frame/index.js';
import { EMPTY_DOCUMENT, referencesOf } from '../document/page-document.js';
import { headHtml, NOTHING_SAID, type SaidOfPage, type ShareImage } from '../metadata/index.js';
import { jsonLd, structuredData } from '../structured/index.js';
import { fillText } from '../text/names.js';
import type { PictureId } from '../plan/index.js';
import { isRightToLeft } from '../blocks/languages.js';
import { blocksHtml } from './section.js';
import { iconsHtml, siteFrameHtml, type PageIcons, type SiteFrame } from './site-frame.js';
import type { RenderContext } from '../markup/context.js';
import { Html, html, type HtmlPart } from '../html/index.js';

/** Rises with every change of what is rendered, so that old renders are not found again (it is part of the render key). */
export const RENDER_VERSION = 10;

/** What a page says around its blocks itself; what its site puts around it is its frame (`core/frame`). */
export interface PageHead {
  readonly language: string;
  /** Stands for a title that is missing. */
  readonly siteName: string;
  /** The stylesheet of the page's own CSS, after those of its site. */
  readonly ownStyleHref: string | null;
  /** Addresses of the scripts of blocks, by type; without one the block is as it is without script. */
  readonly scriptHrefs: Readonly<Record<string, string>>;
  /** Icons of its own, instead of those of its site. */
  readonly ownIcons: PageIcons | null;
  readonly canonical: string | null;
  readonly isIndexable: boolean;
  readonly shareImage: ShareImage | null;
  /** The absolute address of the site's home page; `null` where nothing is stated for machines. */
  readonly homeAddress: string | null;
  /** What is said of it further up. */
  readonly said: SaidOfPage;
}

/** A page with everything around it. */
export type PageFrame = PageHead & SiteFrame;

/** A frame of a page that is not published: no address, nothing around it. */
export const BARE_FRAME: PageFrame = {
  language: 'en',
  siteName: '',
  homeHref: null,
  stylesheetHref: null,
  siteStyleHref: null,
  ownStyleHref: null,
  inlineStyle: null,
  fontHrefs: [],
  scriptHrefs: {},
  icons: null,
  ownIcons: null,
  canonical: null,
  isIndexable: false,
  shareImage: null,
  homeAddress: null,
  said: NOTHING_SAID,
  plainIcon: null,
  partScripts: [],
  frameScript: null,
};

/** The whole page as HTML, without script unless a block has one. The preview and what visitors get are both made so. */
export function pageHtml(document: PageDocument, frame: PageFrame, around: RenderContext): string {
  return compose(cutPage(contentHtml(document, frame, around)), siteFrameHtml(frame, around));
}

/** The page apart from its frame, with a slot for each part of it. */
export function contentHtml(document: PageDocument, own: PageHead, around: RenderContext): string {
  const language = document.metadata.language ?? own.language;
  const context = { ...around, language };
  const { ownStyleHref, ownIcons, scriptHrefs } = own;
  const metadata = filledMetadata(document.metadata, context.values);
  const said = filledSaid(own.said, context.values);
  const scripts = new Set(blocksOn(document.blocks, context).flatMap(({ type }) => scriptHrefs[type] ?? []));
  const head: HtmlPart = [
    html`<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">`,
    headHtml({ ...own, metadata, said }),
    structuredHtml(document, { ...own, language, said, metadata }, context),
    ownIcons ? iconsHtml(ownIcons) : slotHtml('icons'),
    slotHtml('head'),
    ownStyleHref && html`<link rel="stylesheet" href="${ownStyleHref}">`,
    [...scripts].map((href) => html`<script src="${href}" defer></script>`),
  ];
  const page = html`<!doctype html><html lang="${language}"${isRightToLeft(language) && html` dir="rtl"`}><head>${head}</head><body>${slotHtml('above')}<main>${blocksHtml(document.blocks, context)}</main>${slotHtml('below')}</body></html>`;
  return page.markup.replace(/\n\s*/g, '\n');
}

/** Metadata with the names between { } filled in. */
function filledMetadata(metadata: Metadata, values: RenderContext['values']): Metadata {
  const texts = METADATA_TEXTS.flatMap((key) => {
    const text = metadata[key];
    return text === undefined ? [] : [[key, fillText(text, values)]];
  });
  const { elements } = metadata;
  return {
    ...metadata,
    ...(Object.fromEntries(texts) as Pick<Metadata, MetadataText>),
    ...(elements ? { elements: filledElements(elements, values) } : {}),
  };
}

function filledSaid(said: SaidOfPage, values: RenderContext['values']): SaidOfPage {
  if (said === NOTHING_SAID) return said;
  const fill = (text: string) => fillText(text, values);
  return {
    ...{
      titleBefore: fill(said.titleBefore),
      titleAfter: fill(said.titleAfter),
      siteName: fill(said.siteName),
      organization: fill(said.organization),
    },
    ...{ description: fill(said.description), robots: said.robots, elements: filledElements(said.elements, values) },
  };
}

const filledElements = (elements: readonly HeadElement[], values: RenderContext['values']) =>
  elements.map((element) =>
    element.kind === 'meta' ? { ...element, content: fillText(element.content, values) } : element,
  );

const slotHtml = (slot: Slot): Html => new Html(slotMark(slot));

const isPiece = ({ type }: Block) => type === 'piece';

/** What the page states for machines, where it has an address under which it may be found. */
function structuredHtml(
  { metadata: { facts = [] }, blocks }: PageDocument,
  {
    metadata,
    said,
    language,
    siteName,
    canonical,
    homeAddress,
    isIndexable,
    shareImage,
  }: PageHead & { readonly metadata: Metadata },
  context: RenderContext,
): HtmlPart {
  if (!canonical || !homeAddress || !isIndexable) return null;
  const absolute = (src: string) => new URL(src, homeAddress).href;
  const graph = structuredData({
    blocks: blocksOn(blocks, context),
    title: metadata.title || siteName,
    description: metadata.description || said.description,
    organization: said.organization || siteName,
    address: canonical,
    language,
    siteName: said.siteName || siteName,
    home: homeAddress,
    picture: shareImage?.src ?? null,
    facts,
    fill: (text) => fillText(text, context.values),
    pictureOf(id) {
      const src = context.pictureOf(id as PictureId)?.variants.at(-1)?.src;
      return src ? absolute(src) : null;
    },
    filmOf(id) {
      const film = context.fileOf(id);
      return film ? { src: absolute(film.src), uploaded: film.uploaded ?? null } : null;
    },
  });
  return html`<script type="application/ld+json">${new Html(jsonLd(graph))}</script>`;
}

/** All blocks of a page, those of its pieces too. */
function blocksOn(blocks: readonly Block[], context: RenderContext): readonly Block[] {
  const pieces = referencesOf({ metadata: EMPTY_DOCUMENT.metadata, blocks: blocks.filter(isPiece) }, 'piece');
  return [...blocks, ...pieces.flatMap((id) => context.pieceOf(id) ?? [])];
}

/** What visitors get where a site has no not-found page of its own. */
export function plainNotFoundHtml(): string {
  return html`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>Not found</title></head><body><h1>Not found</h1><p>There is no page at this address.</p></body></html>`
    .markup;
}
