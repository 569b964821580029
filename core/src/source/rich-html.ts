import {
  isWrong,
  linkTargetFromJSON,
  pictureUseFromJSON,
  type LinkTarget,
  type PictureUse,
  type RichAlign,
  type RichBlock,
  type RichInline,
  type RichItem,
  type RichMark,
  type RichText,
} from '../document/index.js';
import { escapeText } from '../html/index.js';
import { INLINE, isSilent, type HtmlElement, type HtmlNode } from './tree.js';

/** A link target as an address in source: references keep their identity (`page:12`, `page:12#blockid`, `file:3`). */
export function targetToAddress(target: LinkTarget): string {
  switch (target.kind) {
    case 'page':
      return `page:${target.pageId}${target.blockId ? `#${target.blockId}` : ''}`;
    case 'block':
      return `#${target.blockId}`;
    case 'file':
      return `file:${target.fileId}`;
    case 'outside':
      return target.url;
    case 'mail':
      return `mailto:${target.address}`;
    case 'phone':
      return `tel:${target.number}`;
  }
}

/** An address in source as a link target, or `null` where it leads nowhere that a page may link to. */
export function addressToTarget(address: string): LinkTarget | null {
  const [, kind = '', rest = ''] = /^(page|file|mailto|tel):(.*)$/i.exec(address.trim()) ?? [];
  const [id = '', blockId] = rest.split('#');
  const target =
    kind === 'page'
      ? linkTargetFromJSON({ kind: 'page', pageId: Number(id), blockId })
      : kind === 'file'
        ? linkTargetFromJSON({ kind: 'file', fileId: Number(id) })
        : /^mailto$/i.test(kind)
          ? linkTargetFromJSON({ kind: 'mail', address: rest.split('?')[0] })
          : /^tel$/i.test(kind)
            ? linkTargetFromJSON({ kind: 'phone', number: rest })
            : address.trim().startsWith('#')
              ? linkTargetFromJSON({ kind: 'block', blockId: address.trim().slice(1) })
              : linkTargetFromJSON({ kind: 'outside', url: address.trim() });
  return isWrong(target) ? null : target;
}

/** Formatted text as HTML that people read and write. */
export function richToHtml(text: RichText): string {
  return text.content.map((node) => blockToHtml(node, '')).join('\n');
}

function blockToHtml(node: RichBlock, indent: string): string {
  if (node.type === 'paragraph') return `${indent}<p${alignOf(node.attrs)}>${inlinesToHtml(node.content ?? [])}</p>`;
  if (node.type === 'blockquote')
    return `${indent}<blockquote>\n${node.content.map((child) => blockToHtml(child, `${indent}  `)).join('\n')}\n${indent}</blockquote>`;
  if (node.type === 'heading')
    return `${indent}<h${node.attrs.level}${alignOf(node.attrs)}>${inlinesToHtml(node.content ?? [])}</h${node.attrs.level}>`;
  const tag = node.type === 'bulletList' ? 'ul' : 'ol';
  const items = node.content.map((item) => {
    const [only] = item.content;
    const inner =
      item.content.length === 1 && only?.type === 'paragraph'
        ? inlinesToHtml(only.content ?? [])
        : `\n${item.content.map((child) => blockToHtml(child, `${indent}    `)).join('\n')}\n${indent}  `;
    return `${indent}  <li>${inner}</li>`;
  });
  return `${indent}<${tag}>\n${items.join('\n')}\n${indent}</${tag}>`;
}

const alignOf = (attrs: { readonly align?: RichAlign } | undefined) =>
  attrs?.align ? ` data-align="${attrs.align}"` : '';

const inlinesToHtml = (nodes: readonly RichInline[]): string =>
  nodes
    .map((node) => {
      if (node.type === 'hardBreak') return '<br>';
      if (node.type === 'picture') return pictureToHtml(node.attrs, '');
      return (node.marks ?? []).reduceRight((inner, mark) => {
        if (mark.type === 'bold') return `<strong>${inner}</strong>`;
        if (mark.type === 'italic') return `<em>${inner}</em>`;
        if (mark.type === 'superscript') return `<sup>${inner}</sup>`;
        if (mark.type === 'subscript') return `<sub>${inner}</sub>`;
        return `<a href="${escapeText(targetToAddress(mark.attrs.target))}">${inner}</a>`;
      }, escapeText(node.text));
    })
    .join('');

/** The use of a picture as an element; `named` is what else it says. */
export function pictureToHtml(use: PictureUse | null, named: string): string {
  const focus = use?.focus ? ` data-focus="${use.focus.x} ${use.focus.y}"` : '';
  return `<img${named} src="${use ? `picture:${use.pictureId}` : ''}" alt="${escapeText(use?.description ?? '').replaceAll('\n', '&#10;')}"${use?.isDecorative ? ' data-decorative' : ''}${focus}>`;
}

/** The use of a picture as JSON from its element, `null` where that shows none. */
export function pictureOf(attributes: HtmlElement['attributes']): unknown {
  const src = attributes['src'] ?? '';
  if (!src) return null;
  const [x, y] = (attributes['data-focus'] ?? '').split(' ').map(Number);
  return {
    pictureId: Number(/^picture:(\d+)$/.exec(src)?.[1] ?? NaN),
    description: attributes['alt'] ?? '',
    isDecorative: 'data-decorative' in attributes,
    ...(attributes['data-focus'] ? { focus: { x, y } } : {}),
  };
}

/** What pages can hold of some HTML as formatted text: the words all, the formats that pages have. */
export function richFromHtml(nodes: readonly HtmlNode[]): RichText {
  const content = blocksOf(nodes, 0);
  return { type: 'doc', content: content.length ? content : [{ type: 'paragraph' }] };
}

const MAX_DEPTH = 6;

function blocksOf(nodes: readonly HtmlNode[], depth: number): RichBlock[] {
  const blocks: RichBlock[] = [];
  let line: RichInline[] = [];
  const close = () => {
    const content = trimmed(line);
    if (content.length) blocks.push({ type: 'paragraph', content });
    line = [];
  };
  for (const node of nodes) {
    if (typeof node === 'string' || INLINE.has(node.tag) || insetOf(node)) {
      line.push(...inlinesOf(node, []));
      continue;
    }
    if (isSilent(node)) continue;
    close();
    const level = /^h([1-6])$/.exec(node.tag)?.[1];
    if (level) {
      const content = trimmed(node.children.flatMap((child) => inlinesOf(child, [])));
      const attrs = { level: Number(level) <= 2 ? (2 as const) : (3 as const), ...alignmentOf(node) };
      if (content.length) blocks.push({ type: 'heading', attrs, content });
    } else if (node.tag === 'blockquote' && depth < MAX_DEPTH) {
      const content = blocksOf(node.children, depth + 1);
      if (content.length) blocks.push({ type: 'blockquote', content });
    } else if ((node.tag === 'ul' || node.tag === 'ol') && depth < MAX_DEPTH) {
      const items = node.children.flatMap((child) => itemOf(child, depth));
      if (items.length) blocks.push({ type: node.tag === 'ul' ? 'bulletList' : 'orderedList', content: items });
    } else blocks.push(...aligned(blocksOf(node.children, depth), alignmentOf(node)));
  }
  close();
  return blocks;
}

/** What an element says of where its lines stand; the start is what is usual. */
function alignmentOf({ attributes }: HtmlElement): { readonly align: RichAlign } | null {
  const said =
    attributes['data-align'] ??
    /text-align:\s*(\w+)/i.exec(attributes['style'] ?? '')?.[1] ??
    attributes['align'] ??
    '';
  if (/^cent(re|er)$/i.test(said)) return { align: 'centre' };
  return /^(end|right)$/i.test(said) ? { align: 'end' } : null;
}

const aligned = (blocks: readonly RichBlock[], attrs: { readonly align: RichAlign } | null): readonly RichBlock[] =>
  attrs ? blocks.map((block) => (block.type === 'paragraph' && !block.attrs ? { ...block, attrs } : block)) : blocks;

/** A picture of the shelf within a line. */
function insetOf(node: HtmlElement): PictureUse | null {
  const use = node.tag === 'img' ? pictureUseFromJSON(pictureOf(node.attributes)) : null;
  return use && !isWrong(use) ? use : null;
}

function itemOf(node: HtmlNode, depth: number): RichItem[] {
  if (typeof node === 'string')
    return node.trim()
      ? [{ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: node.trim() }] }] }]
      : [];
  const content = blocksOf(node.tag === 'li' ? node.children : [node], depth + 1);
  return content.length ? [{ type: 'listItem', content }] : [];
}

function inlinesOf(node: HtmlNode, marks: readonly RichMark[]): RichInline[] {
  if (typeof node === 'string') {
    const text = node.replace(/\s+/g, ' ');
    return text ? [{ type: 'text', text, ...(marks.length ? { marks } : {}) }] : [];
  }
  if (node.tag === 'br') return [{ type: 'hardBreak' }];
  const inset = insetOf(node);
  if (inset) return [{ type: 'picture', attrs: inset }];
  if (isSilent(node)) return [];
  const next = [...marks, ...marksOf(node).filter((mark) => !marks.some(({ type }) => type === mark.type))];
  return node.children.flatMap((child) => inlinesOf(child, next));
}

/** Formats by what an element is, or by what a word processor writes in its style. */
function marksOf({ tag, attributes }: HtmlElement): RichMark[] {
  const style = attributes['style'] ?? '';
  const isBold =
    (tag === 'b' && !/font-weight:\s*(normal|400)/i.test(style)) ||
    tag === 'strong' ||
    /font-weight:\s*(bold|[6-9]00)/i.test(style);
  const isItalic =
    (tag === 'i' && !/font-style:\s*normal/i.test(style)) || tag === 'em' || /font-style:\s*italic/i.test(style);
  const target = tag === 'a' ? addressToTarget(attributes['href'] ?? '') : null;
  return [
    ...(isBold ? [{ type: 'bold' as const }] : []),
    ...(isItalic ? [{ type: 'italic' as const }] : []),
    ...scriptOf(tag, style).map((type) => ({ type })),
    ...(target ? [{ type: 'link' as const, attrs: { target } }] : []),
  ];
}

/** Raised or lowered, by its element or as word processors write it. */
function scriptOf(tag: string, style: string): ('superscript' | 'subscript')[] {
  if (tag === 'sup' || /vertical-align:\s*super/i.test(style)) return ['superscript'];
  return tag === 'sub' || /vertical-align:\s*sub(?!\w)/i.test(style) ? ['subscript'] : [];
}

/** A line without spaces at its ends, and with one where several met. */
function trimmed(line: readonly RichInline[]): RichInline[] {
  const joined: RichInline[] = [];
  for (const node of line) {
    const last = joined.at(-1);
    const atStart = !last || last.type === 'hardBreak' || (last.type === 'text' && last.text.endsWith(' '));
    const text = node.type === 'text' && atStart ? node.text.replace(/^ /, '') : node.type === 'text' ? node.text : '';
    if (node.type !== 'text') joined.push(node);
    else if (text) joined.push({ ...node, text });
  }
  while (joined.length) {
    const last = joined.at(-1) as RichInline;
    joined.pop();
    if (last.type === 'hardBreak') continue;
    if (last.type === 'picture') return [...joined, last];
    const text = last.text.replace(/ $/, '');
    if (!text) continue;
    return [...joined, { ...last, text }];
  }
  return joined;
}
