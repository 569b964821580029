/** A tree of HTML as a parser gives it: elements by their names in small letters, and texts. */
export type HtmlNode = string | HtmlElement;
export interface HtmlElement {
  readonly tag: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly HtmlNode[];
}

/** Elements that show nothing, or nothing that can be taken along. */
const SILENT = new Set(
  'script style template noscript svg math head meta link title iframe object embed canvas audio select textarea input button'.split(
    ' ',
  ),
);

/** What its own style keeps from being seen; `mso-hide` is that of word processors. */
const HIDDEN = /display:\s*none|visibility:\s*hidden|mso-hide:\s*all|font-size:\s*0(?![.\d])/i;

export const isHidden = ({ attributes }: HtmlElement): boolean =>
  'hidden' in attributes || HIDDEN.test(attributes['style'] ?? '');

export const isSilent = (node: HtmlElement): boolean => SILENT.has(node.tag) || isHidden(node);

/** The words of a part, one space between its parts. */
export function wordsOf(node: HtmlNode): string {
  return textOf(node).replace(/\s+/g, ' ').trim();
}

function textOf(node: HtmlNode): string {
  if (typeof node === 'string') return node;
  if (node.tag === 'br') return ' ';
  return isSilent(node) ? '' : node.children.map(textOf).join(INLINE.has(node.tag) ? '' : ' ');
}

/** Elements that stand within a line. */
export const INLINE = new Set(
  'a abbr b bdi bdo cite code data dfn em font i kbd label mark q s samp small span strong sub sup time u var br wbr'.split(
    ' ',
  ),
);

/** All elements of a name below a node, in their order. */
export function elementsOf(node: HtmlNode, tag: string): HtmlElement[] {
  if (typeof node === 'string') return [];
  return [...(node.tag === tag ? [node] : []), ...node.children.flatMap((child) => elementsOf(child, tag))];
}
