import { blockTypes } from '../blocks/registry.js';
import type { Block, PageDocument } from '../document/page-document.js';
import { headHtml } from '../metadata/index.js';
import type { RenderContext, RenderWorld } from './context.js';
import { escapeText, Html, html, type HtmlPart } from './html.js';

/** Rises with every change of what is rendered, so that old renders are not found again (it is part of the render key). */
export const RENDER_VERSION = 2;

/** The page around its blocks. */
export interface PageFrame {
  readonly language: string;
  readonly siteName: string;
  readonly homeHref: string | null;
  readonly stylesheetHref: string | null;
  /** The stylesheet itself, for the canvas, which has no address. */
  readonly inlineStyle: string | null;
  readonly fontHrefs: readonly string[];
  readonly canonical: string | null;
  readonly isIndexable: boolean;
  readonly shareImage: string | null;
}

/** One block as it stands on the page: the element with the block's identity, which the canvas replaces as one types. */
export function blockHtml(block: Block, context: RenderContext): Html {
  return html`<section id="b-${block.id}">${blockTypes[block.type].render(block.fields, context)}</section>`;
}

/** The whole page as HTML without any script. The preview and what visitors get are both made here. */
export function pageHtml(document: PageDocument, frame: PageFrame, context: RenderContext): string {
  const { language, siteName, homeHref, stylesheetHref, fontHrefs } = frame;
  const name = homeHref ? html`<a href="${homeHref}">${siteName}</a>` : html`<span>${siteName}</span>`;
  const head: HtmlPart = [
    html`<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">`,
    headHtml({ ...frame, metadata: document.metadata }),
    fontHrefs.map((href) => html`<link rel="preload" href="${href}" as="font" type="font/woff2" crossorigin>`),
    stylesheetHref && html`<link rel="stylesheet" href="${stylesheetHref}">`,
  ];
  const page = html`<!doctype html><html lang="${language}"><head>${head}${frame.inlineStyle !== null && styleElement(frame.inlineStyle)}</head><body><header class="masthead">${name}</header><main>${document.blocks.map((block) => blockHtml(block, context))}</main><footer class="colophon"><p>${siteName}</p></footer></body></html>`;
  return page.markup.replace(/\n\s*/g, '\n');
}

/** Our own stylesheet as an element; the only thing that could end the element early is taken apart. */
function styleElement(css: string): Html {
  return new Html(`<style>${css.replaceAll('</', '<\\/')}</style>`);
}

/** A context whose first picture is handed out once. On the canvas elements name the fields they show. */
export function contextOf(world: RenderWorld, isCanvas = false): RenderContext {
  let isFirst = true;
  return {
    ...world,
    at: (field) => (isCanvas ? html` ${new Html(`data-field="${escapeText(field)}"`)}` : null),
    takeFirstPicture: () => {
      const was = isFirst;
      isFirst = false;
      return was;
    },
  };
}

/** What visitors get where a site has no not-found page of its own. */
export function plainNotFoundHtml(): string {
  return html`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>Not found</title></head><body><h1>Not found</h1><p>There is no page at this address.</p></body></html>`
    .markup;
}
