import type { Metadata } from '../fields/types.js';
import { html, type Html } from '../html/index.js';

/** What the head of a page says to search engines and to those who share it. */
export interface HeadInput {
  readonly metadata: Metadata;
  readonly siteName: string;
  /** The page's own absolute address, the canonical one. `null` where it has none that may be found. */
  readonly canonical: string | null;
  readonly isIndexable: boolean;
  readonly shareImage: string | null;
  readonly icons: { readonly small: string; readonly large: string } | null;
}

/** Title, description, robots, canonical and sharing data, as elements of the head. */
export function headHtml({ metadata, siteName, canonical, isIndexable, shareImage, icons }: HeadInput): Html {
  const { title, description } = metadata;
  return html`<title>${title || siteName}</title>${description && html`<meta name="description" content="${description}">`}${!isIndexable && html`<meta name="robots" content="noindex">`}${canonical && html`<link rel="canonical" href="${canonical}"><meta property="og:url" content="${canonical}">`}<meta property="og:title" content="${title || siteName}"><meta property="og:site_name" content="${siteName}">${description && html`<meta property="og:description" content="${description}">`}${shareImage && html`<meta property="og:image" content="${shareImage}"><meta name="twitter:card" content="summary_large_image">`}${icons && html`<link rel="icon" href="${icons.small}" sizes="32x32"><link rel="apple-touch-icon" href="${icons.large}">`}`;
}

/** About as many characters of a description as search engines show. */
export const DESCRIPTION_SHOWN = 155;
/** About as many characters of a title as search engines show. */
export const TITLE_SHOWN = 60;
