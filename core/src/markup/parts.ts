import type { Button } from '../fields/fields.js';
import type { PictureUse } from '../fields/picture-use.js';
import type { RichAlign, RichBlock, RichInline, RichItem, RichText } from '../fields/rich-text.js';
import type { RenderContext, RenderPicture } from './context.js';
import { iconHtml } from '../icons/index.js';
import { html, type Html, type HtmlPart } from '../html/index.js';

/** Plain text with its lines: an empty line begins a paragraph. */
export function linesHtml(text: string): Html {
  const paragraphs = text.split(/\n\s*\n/).filter((paragraph) => paragraph.trim());
  return html`${paragraphs.map((paragraph) => html`<p>${paragraph.split('\n').map((line, index) => [index > 0 && html`<br>`, line])}</p>`)}`;
}

/** Plain text with its lines, in an element of its own. */
export function linesAt(text: string, field: string, context: RenderContext): Html | null {
  return text ? html`<div class="lines"${context.at(field)}>${linesHtml(text)}</div>` : null;
}

/** The heading of a block, where it has one. */
export function headingAt(heading: string, context: RenderContext): Html | null {
  return heading ? html`<h2${context.at('heading')}>${heading}</h2>` : null;
}

/** A button that leads somewhere; one that leads nowhere is not shown to visitors. */
export function buttonHtml(button: Button | null, context: RenderContext, field = 'button'): Html | null {
  if (!button?.label || !button.target) return null;
  const href = context.hrefOf(button.target);
  if (href === null) return null;
  const [icon, at] = [iconHtml(button.icon), context.at(`${field}.label`)];
  return icon
    ? html`<a class="button" href="${href}">${icon}<span${at}>${button.label}</span></a>`
    : html`<a class="button" href="${href}"${at}>${button.label}</a>`;
}

/** Where an entry of a block leads, below what it says. */
export function leadOnHtml(button: Button | null, context: RenderContext, field: string): Html | null {
  const href = button?.label && button.target ? context.hrefOf(button.target) : null;
  return button && href !== null
    ? html`<p class="lead-on"><a href="${href}">${iconHtml(button.icon)}<span${context.at(`${field}.label`)}>${button.label}</span></a></p>`
    : null;
}

/** Up to so many pixels wide a picture is an icon or a mark, and stays as small as it is. */
const SMALL = 160;
const isSmall = ({ width }: RenderPicture) => width <= SMALL;

/** What a page says of a picture: where that was said of the one before it, what is said of it now. */
export const describedAs = (
  { description }: PictureUse,
  picture: Pick<RenderPicture, 'description' | 'formerWords'>,
): string => (picture.formerWords?.includes(description) ? (picture.description ?? '') : description);

/** A picture in the widths there are, with its size, so that nothing moves when it arrives. */
export function pictureHtml(use: PictureUse, context: RenderContext, sizes: string): Html | null {
  const picture = context.pictureOf(use.pictureId);
  const largest = picture?.variants.at(-1);
  if (!picture || !largest) return null;
  const description = use.isDecorative ? '' : describedAs(use, picture);
  const { variants } = picture;
  const setOf = (srcOf: (variant: (typeof variants)[number]) => string | undefined) =>
    variants.map((variant) => `${srcOf(variant)} ${variant.width}w`).join(', ');
  const loading = context.takeFirstPicture() ? html`fetchpriority="high"` : html`loading="lazy"`;
  const style = [
    ...(use.focus ? [`object-position:${use.focus.x / 10}% ${use.focus.y / 10}%`] : []),
    ...(picture.crop || isSmall(picture) ? [`aspect-ratio:${picture.width}/${picture.height}`] : []),
    // A small drawing is not blown up.
    ...(isSmall(picture) ? [`width:auto;max-width:min(100%,${picture.width}px)`] : []),
  ].join(';');
  // A part that is no square stays none where others are cut round.
  const isOfOwnShape = picture.crop && Math.abs(picture.width / picture.height - 1) > 0.05;
  const look = [isOfOwnShape && html` class="own-shape"`, style && html` style="${style}"`];
  const img = html`<img src="${largest.src}" srcset="${setOf(({ src }) => src)}" sizes="${sizes}" width="${picture.width}" height="${picture.height}" alt="${description}"${look} ${loading} decoding="async">`;
  return variants.every(({ avif }) => avif)
    ? html`<picture><source type="image/avif" srcset="${setOf(({ avif }) => avif)}" sizes="${sizes}">${img}</picture>`
    : img;
}

export function richTextHtml(text: RichText, context: RenderContext): Html {
  return html`${text.content.map((node) => richBlock(node, context))}`;
}

function richBlock(node: RichBlock, context: RenderContext): Html {
  const items = (list: readonly RichItem[]) =>
    list.map(({ content }) => html`<li>${content.map((child) => richBlock(child, context))}</li>`);
  switch (node.type) {
    case 'paragraph':
      return html`<p${alignHtml(node.attrs)}>${richInlines(node.content ?? [], context)}</p>`;
    case 'heading':
      return node.attrs.level === 3
        ? html`<h3${alignHtml(node.attrs)}>${richInlines(node.content ?? [], context)}</h3>`
        : html`<h2${alignHtml(node.attrs)}>${richInlines(node.content ?? [], context)}</h2>`;
    case 'blockquote':
      return html`<blockquote class="said">${node.content.map((child) => richBlock(child, context))}</blockquote>`;
    case 'bulletList':
      return html`<ul>${items(node.content)}</ul>`;
    case 'orderedList':
      return html`<ol>${items(node.content)}</ol>`;
  }
}

const alignHtml = (attrs: { readonly align?: RichAlign } | undefined): Html | null =>
  attrs?.align ? html` class="to-${attrs.align}"` : null;

function richInlines(nodes: readonly RichInline[], context: RenderContext): HtmlPart[] {
  return nodes.map((node) => {
    if (node.type === 'hardBreak') return html`<br>`;
    if (node.type === 'picture') {
      const img = pictureHtml(node.attrs, context, '12rem');
      return img && html`<span class="inset">${img}</span>`;
    }
    return (node.marks ?? []).reduce(
      (inner, mark) => {
        if (mark.type === 'bold') return html`<strong>${inner}</strong>`;
        if (mark.type === 'italic') return html`<em>${inner}</em>`;
        if (mark.type === 'superscript') return html`<sup>${inner}</sup>`;
        if (mark.type === 'subscript') return html`<sub>${inner}</sub>`;
        const href = context.hrefOf(mark.attrs.target);
        return href === null ? inner : html`<a href="${href}">${inner}</a>`;
      },
      html`${node.text}`,
    );
  });
}
