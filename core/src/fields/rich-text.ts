import { wrong, type Wrong } from '../words/faults.js';
import { isWrong, linkTargetFromJSON, type LinkTarget } from './link.js';
import { isRecord, type Fault } from './result.js';

/** Formatted text, in the shape TipTap reads and writes, restricted to what pages may have. */
export interface RichText {
  readonly type: 'doc';
  readonly content: readonly RichBlock[];
}

export type RichBlock =
  | { readonly type: 'paragraph'; readonly content?: readonly RichInline[] }
  | { readonly type: 'heading'; readonly attrs: { readonly level: 2 | 3 }; readonly content?: readonly RichInline[] }
  | { readonly type: 'bulletList' | 'orderedList'; readonly content: readonly RichItem[] };

export interface RichItem {
  readonly type: 'listItem';
  readonly content: readonly RichBlock[];
}

export type RichInline =
  | { readonly type: 'text'; readonly text: string; readonly marks?: readonly RichMark[] }
  | { readonly type: 'hardBreak' };

export type RichMark =
  | { readonly type: 'bold' }
  | { readonly type: 'italic' }
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
      if (mark['type'] === 'bold' || mark['type'] === 'italic') return [{ type: mark['type'] }];
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
          return [content === undefined ? { type: 'paragraph' } : { type: 'paragraph', content: inline(content) }];
        case 'heading':
          return [
            {
              type: 'heading',
              attrs: { level: isRecord(node['attrs']) && node['attrs']['level'] === 3 ? 3 : 2 },
              content: inline(content),
            },
          ];
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

/** The words of a formatted text, one space between its parts. */
export function plainTextOf(text: RichText): string {
  const words: string[] = [];
  const visit = (node: RichBlock | RichItem | RichInline): void => {
    if (node.type === 'text') words.push(node.text);
    else if (node.type === 'hardBreak') words.push(' ');
    else {
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
    } else if (node.type !== 'hardBreak') for (const child of node.content ?? []) visit(child);
  };
  for (const node of text.content) visit(node);
  return links;
}
