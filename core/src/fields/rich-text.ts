import { wrong, type Wrong } from '../words/faults.js';
import { isWrong, linkTargetFromJSON, type LinkTarget } from './link.js';
import { pictureUseFromJSON, type PictureUse } from './picture-use.js';
import { isRecord, type Fault } from './result.js';

/** Formatted text, in the shape TipTap reads and writes, restricted to what pages may have. */
export interface RichText {
  readonly type: 'doc';
  readonly content: readonly RichBlock[];
}

/** Where the lines of a paragraph stand; at the start where nothing is said. Start and end are those of its language. */
export type RichAlign = 'centre' | 'end';

export type RichBlock =
  | {
      readonly type: 'paragraph';
      readonly attrs?: { readonly align: RichAlign };
      readonly content?: readonly RichInline[];
    }
  | {
      readonly type: 'heading';
      readonly attrs: { readonly level: 2 | 3; readonly align?: RichAlign };
      readonly content?: readonly RichInline[];
    }
  | { readonly type: 'blockquote'; readonly content: readonly RichBlock[] }
  | { readonly type: 'bulletList' | 'orderedList'; readonly content: readonly RichItem[] };

export interface RichItem {
  readonly type: 'listItem';
  readonly content: readonly RichBlock[];
}

export type RichInline =
  | { readonly type: 'text'; readonly text: string; readonly marks?: readonly RichMark[] }
  /** A small picture within a line. */
  | { readonly type: 'picture'; readonly attrs: PictureUse }
  | { readonly type: 'hardBreak' };

export type RichMark =
  | { readonly type: 'bold' }
  | { readonly type: 'italic' }
  | { readonly type: 'superscript' }
  | { readonly type: 'subscript' }
  | { readonly type: 'link'; readonly attrs: { readonly target: LinkTarget } };

export const EMPTY_RICH_TEXT: RichText = { type: 'doc', content: [{ type: 'paragraph' }] };
export const MAX_RICH_TEXT = 100_000;
const MAX_DEPTH = 8;

/** Formatted text of plain paragraphs. */
export function richTextOf(...paragraphs: string[]): RichText {
  return { type: 'doc', content: paragraphs.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })) };
}

/** Formatted text from JSON. What pages can't have is a fault, never dropped in silence. */
export function richTextFromJSON(json: unknown, path: string, faults: Fault[]): RichText {
  const fault = (what: Wrong) => void faults.push({ path, ...what });
  if (!isRecord(json) || json['type'] !== 'doc') {
    fault(wrong('rich-unreadable'));
    return EMPTY_RICH_TEXT;
  }
  let length = 0;
  const list = (value: unknown): unknown[] =>
    value === undefined ? [] : Array.isArray(value) ? value : (fault(wrong('rich-unreadable')), []);
  const marks = (value: unknown): RichMark[] =>
    list(value).flatMap((mark): RichMark[] => {
      if (!isRecord(mark)) return [];
      if (isPlainMark(mark['type'])) return [{ type: mark['type'] }];
      if (mark['type'] === 'link' && isRecord(mark['attrs'])) {
        const target = linkTargetFromJSON(mark['attrs']['target']);
        if (!isWrong(target)) return [{ type: 'link', attrs: { target } }];
        fault(wrong('rich-link', { fault: target }));
        return [];
      }
      fault(wrong('rich-formatting'));
      return [];
    });
  const inline = (value: unknown): RichInline[] =>
    list(value).flatMap((node): RichInline[] => {
      if (isRecord(node) && node['type'] === 'hardBreak') return [{ type: 'hardBreak' }];
      if (isRecord(node) && node['type'] === 'picture') {
        const use = pictureUseFromJSON(node['attrs']);
        return isWrong(use) ? (fault(use), []) : [{ type: 'picture', attrs: use }];
      }
      if (isRecord(node) && node['type'] === 'text' && typeof node['text'] === 'string' && node['text']) {
        length += node['text'].length;
        const kept = marks(node['marks']);
        return [{ type: 'text', text: node['text'], ...(kept.length ? { marks: kept } : {}) }];
      }
      fault(wrong('rich-content'));
      return [];
    });
  const blocks = (value: unknown, depth: number): RichBlock[] => {
    if (depth > MAX_DEPTH) return (fault(wrong('rich-too-deep')), []);
    return list(value).flatMap((node): RichBlock[] => {
      if (!isRecord(node)) return (fault(wrong('rich-unreadable')), []);
      const content = node['content'];
      switch (node['type']) {
        case 'paragraph':
          return [
            {
              type: 'paragraph',
              ...(alignOf(node) ? { attrs: alignOf(node) as { align: RichAlign } } : {}),
              ...(content === undefined ? {} : { content: inline(content) }),
            },
          ];
        case 'heading':
          return [
            {
              type: 'heading',
              attrs: { level: isRecord(node['attrs']) && node['attrs']['level'] === 3 ? 3 : 2, ...alignOf(node) },
              content: inline(content),
            },
          ];
        case 'blockquote':
          return [{ type: 'blockquote', content: blocks(content, depth + 1) }];
        case 'bulletList':
        case 'orderedList':
          return [
            {
              type: node['type'],
              content: list(content).map((item) => ({
                type: 'listItem',
                content: blocks(isRecord(item) ? item['content'] : [], depth + 1),
              })),
            },
          ];
        default:
          return (fault(wrong('rich-content')), []);
      }
    });
  };
  const content = blocks(json['content'], 0);
  if (length > MAX_RICH_TEXT) fault(wrong('rich-too-long', { length, most: MAX_RICH_TEXT }));
  return { type: 'doc', content };
}

const PLAIN_MARKS = ['bold', 'italic', 'superscript', 'subscript'] as const;
const isPlainMark = (type: unknown): type is (typeof PLAIN_MARKS)[number] =>
  PLAIN_MARKS.some((plain) => plain === type);

function alignOf({ attrs }: Readonly<Record<string, unknown>>): { readonly align: RichAlign } | null {
  const align = isRecord(attrs) ? attrs['align'] : null;
  return align === 'centre' || align === 'end' ? { align } : null;
}

/** The words of a formatted text, one space between its parts. */
export function plainTextOf(text: RichText): string {
  const words: string[] = [];
  const visit = (node: RichBlock | RichItem | RichInline): void => {
    if (node.type === 'text') words.push(node.text);
    else if (node.type === 'hardBreak') words.push(' ');
    else if (node.type !== 'picture') {
      for (const child of node.content ?? []) visit(child);
      words.push(' ');
    }
  };
  for (const node of text.content) visit(node);
  return words.join('').replace(/\s+/g, ' ').trim();
}

/** Every link target in a formatted text, in reading order. */
export function richTextLinks(text: RichText): LinkTarget[] {
  const links: LinkTarget[] = [];
  const visit = (node: RichBlock | RichItem | RichInline): void => {
    if (node.type === 'text') {
      for (const mark of node.marks ?? []) if (mark.type === 'link') links.push(mark.attrs.target);
    } else if (node.type !== 'hardBreak' && node.type !== 'picture')
      for (const child of node.content ?? []) visit(child);
  };
  for (const node of text.content) visit(node);
  return links;
}

/** Every picture in a formatted text, in reading order. */
export function richTextPictures(text: RichText): PictureUse[] {
  const visit = (node: RichBlock | RichItem | RichInline): PictureUse[] =>
    node.type === 'picture'
      ? [node.attrs]
      : node.type === 'text' || node.type === 'hardBreak'
        ? []
        : (node.content ?? []).flatMap(visit);
  return text.content.flatMap(visit);
}
