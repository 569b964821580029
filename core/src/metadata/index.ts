import { elementKey } from '../fields/head-elements.js';
import type { HeadElement, Metadata } from '../fields/types.js';
import { html, type Html } from '../html/index.js';
import { robotsContent } from './robots.js';
import { wholeTitle, type SaidOfPage } from './said.js';

export * from './robots.js';
export * from './said.js';
export * from './cut.js';
export * from './alike.js';
export * from './pattern.js';
export * from './phrases.js';
export * from './findable.js';

/** What the head of a page says to search engines and to those who share it. */
export interface HeadInput {
  readonly metadata: Metadata;
  /** Stands for a title that is missing. */
  readonly siteName: string;
  /** The page's own absolute address, the canonical one. `null` where it has none that may be found. */
  readonly canonical: string | null;
  readonly isIndexable: boolean;
  readonly shareImage: ShareImage | null;
  /** What is said of it further up. */
  readonly said: SaidOfPage;
}

/** The picture that is shown where a page is shared. */
export interface ShareImage {
  readonly src: string;
  readonly width: number;
  readonly height: number;
  /** What is on it, for people who can't see it. */
  readonly description: string;
}

/** Title, description, robots, canonical, sharing data (Open Graph protocol) and further elements of the head. */
export function headHtml(input: HeadInput): Html {
  const { metadata, siteName, canonical, isIndexable, shareImage, said } = input;
  const { title, titleAlone, elements = [] } = metadata;
  const description = metadata.description || said.description;
  const [shareTitle, shareDescription] = [metadata.shareTitle || title, metadata.shareDescription || description];
  const robots = robotsContent(isIndexable ? (metadata.robots ?? said.robots ?? {}) : { noindex: true });
  const named = title && !titleAlone ? wholeTitle(title, said) : title;
  return html`<title>${named || siteName}</title>${description && html`<meta name="description" content="${description}">`}${robots && html`<meta name="robots" content="${robots}">`}${canonical && html`<link rel="canonical" href="${canonical}"><meta property="og:url" content="${canonical}">`}<meta property="og:type" content="website">${said.siteName && html`<meta property="og:site_name" content="${said.siteName}">`}<meta property="og:title" content="${shareTitle || siteName}">${shareDescription && html`<meta property="og:description" content="${shareDescription}">`}${shareImage && shareHtml(shareImage)}${elementsOf(said.elements, elements).map(elementHtml)}`;
}

/** Those of the page, and of those that are said further up the ones it does not say itself. */
function elementsOf(said: readonly HeadElement[], own: readonly HeadElement[]): readonly HeadElement[] {
  const known = new Set(own.map(elementKey));
  return [...said.filter((element) => !known.has(elementKey(element))), ...own];
}

/** Names with a prefix are properties of RDFa (Open Graph protocol), others names of HTML. */
function elementHtml(element: HeadElement): Html {
  if (element.kind === 'link') return html`<link rel="${element.rel}" href="${element.href}">`;
  return element.name.includes(':')
    ? html`<meta property="${element.name}" content="${element.content}">`
    : html`<meta name="${element.name}" content="${element.content}">`;
}

const shareHtml = ({ src, width, height, description }: ShareImage): Html =>
  html`<meta property="og:image" content="${src}"><meta property="og:image:width" content="${String(width)}"><meta property="og:image:height" content="${String(height)}">${description && html`<meta property="og:image:alt" content="${description}">`}<meta name="twitter:card" content="summary_large_image">`;

/** About as many characters of a description as search engines show. */
export const DESCRIPTION_SHOWN = 155;
/** About as many characters of a title as search engines show. */
export const TITLE_SHOWN = 60;
