import type { HtmlElement, HtmlNode } from '@domatium/core/source';
import { inertMarkup } from '../shared/trusted';

/** HTML as a plain tree. The parser runs nothing and loads nothing: its document is not shown. */
export function treeOfHtml(html: string): HtmlElement {
  const { documentElement } = new DOMParser().parseFromString(inertMarkup(html), 'text/html');
  return treeOf(documentElement)[0] as HtmlElement;
}

function treeOf(node: Node): HtmlNode[] {
  if (node.nodeType === Node.TEXT_NODE) return [node.nodeValue ?? ''];
  if (!(node instanceof Element)) return [];
  const attributes = Object.fromEntries([...node.attributes].map(({ name, value }) => [name, value]));
  return [{ tag: node.localName, attributes, children: [...node.childNodes].flatMap(treeOf) }];
}

/** Plain text as HTML: an empty line begins a paragraph. */
export const asHtml = (text: string) => {
  const escape = (line: string) => line.replace(/[&<>]/g, (char) => `&#${char.charCodeAt(0)};`);
  return text
    .split(/\n\s*\n/)
    .filter((part) => part.trim())
    .map((part) => `<p>${escape(part)}</p>`)
    .join('');
};
