import { parse as parseHtml, type DefaultTreeAdapterTypes } from 'parse5';
import type { HtmlElement, HtmlNode } from '../../src/source/index.js';

const treeOf = (node: DefaultTreeAdapterTypes.Node): HtmlNode[] => {
  if (node.nodeName === '#text') return [(node as DefaultTreeAdapterTypes.TextNode).value];
  if (!('tagName' in node)) return [];
  const attributes = Object.fromEntries(node.attrs.map(({ name, value }) => [name, value]));
  return [{ tag: node.tagName, attributes, children: node.childNodes.flatMap(treeOf) }];
};

/** HTML as the plain tree that a browser would give. */
export const parse = (html: string) => parseHtml(html).childNodes.flatMap(treeOf)[0] as HtmlElement;
