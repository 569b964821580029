import type { Metadata } from '../fields/types.js';
import { html, type Html } from '../html/index.js';
import { robotsContent } from './robots.js';

export * from './robots.js';
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
}

/** The picture that is shown where a page is shared. */
export interface ShareImage {
  readonly src: string;
  readonly width: number;
  readonly height: number;
  /** What is on it, for people who can't see it. */
  readonly description: string;
}

/** Title, description, robots, canonical and sharing data (Open Graph protocol), as elements of the head. */
export function headHtml(input: HeadInput): Html {
  const { metadata, siteName, canonical, isIndexable, shareImage } = input;
  const { title, description } = metadata;
  const [shareTitle, shareDescription] = [metadata.shareTitle || title, metadata.shareDescription || description];
  const robots = robotsContent(isIndexable ? (metadata.robots ?? {}) : { noindex: true });
  return html`<title>${title || siteName}</title>${description && html`<meta name="description" content="${description}">`}${robots && html`<meta name="robots" content="${robots}">`}${canonical && html`<link rel="canonical" href="${canonical}"><meta property="og:url" content="${canonical}">`}<meta property="og:type" content="website"><meta property="og:title" content="${shareTitle || siteName}">${shareDescription && html`<meta property="og:description" content="${shareDescription}">`}${shareImage && shareHtml(shareImage)}`;
}

const shareHtml = ({ src, width, height, description }: ShareImage): Html =>
  html`<meta property="og:image" content="${src}"><meta property="og:image:width" content="${String(width)}"><meta property="og:image:height" content="${String(height)}">${description && html`<meta property="og:image:alt" content="${description}">`}<meta name="twitter:card" content="summary_large_image">`;

/** About as many characters of a description as search engines show. */
export const DESCRIPTION_SHOWN = 155;
/** About as many characters of a title as search engines show. */
export const TITLE_SHOWN = 60;
