import {
  isWrong,
  linkTargetFromJSON,
  type LinkTarget,
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
  if (node.type === 'paragraph') return `${indent}<p>${inlinesToHtml(node.content ?? [])}</p>`;
  if (node.type === 'heading')
    return `${indent}<h${node.attrs.level}>${inlinesToHtml(node.content ?? [])}</h${node.attrs.level}>`;
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

const inlinesToHtml = (nodes: readonly RichInline[]): string =>
  nodes
    .map((node) => {
      if (node.type === 'hardBreak') return '<br>';
      return (node.marks ?? []).reduce((inner, mark) => {
        if (mark.type === 'bold') return `<strong>${inner}</strong>`;
        if (mark.type === 'italic') return `<em>${inner}</em>`;
        return `<a href="${escapeText(targetToAddress(mark.attrs.target))}">${inner}</a>`;
      }, escapeText(node.text));
    })
    .join('');

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
    if (typeof node === 'string' || INLINE.has(node.tag)) {
      line.push(...inlinesOf(node, []));
      continue;
    }
    if (isSilent(node)) continue;
    close();
    const level = /^h([1-6])$/.exec(node.tag)?.[1];
    if (level) {
      const content = trimmed(node.children.flatMap((child) => inlinesOf(child, [])));
      if (content.length) blocks.push({ type: 'heading', attrs: { level: Number(level) <= 2 ? 2 : 3 }, content });
    } else if ((node.tag === 'ul' || node.tag === 'ol') && depth < MAX_DEPTH) {
      const items = node.children.flatMap((child) => itemOf(child, depth));
      if (items.length) blocks.push({ type: node.tag === 'ul' ? 'bulletList' : 'orderedList', content: items });
    } else blocks.push(...blocksOf(node.children, depth));
  }
  close();
  return blocks;
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
    ...(target ? [{ type: 'link' as const, attrs: { target } }] : []),
  ];
}

/** A line without spaces at its ends, and with one where several met. */
function trimmed(line: readonly RichInline[]): RichInline[] {
  const joined: RichInline[] = [];
  for (const node of line) {
    const last = joined.at(-1);
    const atStart = !last || last.type === 'hardBreak' || last.text.endsWith(' ');
    const text = node.type === 'text' && atStart ? node.text.replace(/^ /, '') : node.type === 'text' ? node.text : '';
    if (node.type === 'hardBreak') joined.push(node);
    else if (text) joined.push({ ...node, text });
  }
  while (joined.length) {
    const last = joined.at(-1) as RichInline;
    joined.pop();
    if (last.type === 'hardBreak') continue;
    const text = last.text.replace(/ $/, '');
    if (!text) continue;
    return [...joined, { ...last, text }];
  }
  return joined;
}
