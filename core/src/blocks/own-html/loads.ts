import { parse, walk } from 'css-tree';
import { parseFragment, type DefaultTreeAdapterMap } from 'parse5';

type Node = DefaultTreeAdapterMap['node'];

/** Attributes whose value is an address that a browser fetches by itself. */
const ADDRESSES = new Set(['src', 'href', 'xlink:href', 'poster', 'data', 'background']);
/** Elements whose address is only followed by a reader. */
const FOLLOWED = new Set(['a', 'area']);
/** Attributes with several addresses, each followed by how large it is (HTML, 4.8.4.2.1). */
const LISTS = new Set(['srcset', 'imagesrcset']);

/** What a piece of HTML loads from outside: each host once with how often, in the order it comes. */
export function loadedBy(markup: string): string[] {
  const hosts = new Map<string, number>();
  for (const address of addressesIn(parseFragment(markup))) {
    const host = /^(?:https?:)?\/\/([^/?#\s]+)/i.exec(address.trim())?.[1]?.toLowerCase();
    if (host) hosts.set(host, (hosts.get(host) ?? 0) + 1);
  }
  return [...hosts].map(([host, count]) => (count === 1 ? host : `${host}, ${count} times`));
}

function* addressesIn(node: Node): Generator<string> {
  if ('attrs' in node) {
    for (const { name, prefix, value } of node.attrs) {
      const full = prefix ? `${prefix}:${name}` : name;
      if (ADDRESSES.has(full)) {
        if (!(FOLLOWED.has(node.nodeName) && full.endsWith('href'))) yield value;
      } else if (LISTS.has(full)) yield* value.split(/,\s+|,$/).map((one) => one.trim().split(/\s+/)[0] ?? '');
      else if (full === 'srcdoc') yield* addressesIn(parseFragment(value));
      else if (full === 'style') yield* addressesInCss(value, 'declarationList');
    }
    if (node.nodeName === 'style')
      yield* addressesInCss(
        node.childNodes.map((child) => ('value' in child ? child.value : '')).join(''),
        'stylesheet',
      );
  }
  const inner = 'content' in node ? node.content : node;
  if ('childNodes' in inner) for (const child of inner.childNodes) yield* addressesIn(child);
}

/** CSS that is broken is read as far as it can be, as browsers do. */
function addressesInCss(css: string, context: 'stylesheet' | 'declarationList'): string[] {
  const found: string[] = [];
  walk(parse(css, { context, parseCustomProperty: true, onParseError: () => undefined }), function (node) {
    if (node.type === 'Url') found.push(node.value);
    else if (node.type === 'String' && this.atrule?.name.toLowerCase() === 'import') found.push(node.value);
  });
  return found;
}

/** What is not closed or can't be read in a piece of HTML, the first of it, with its line; `null` where all is well. */
export function brokenIn(markup: string): { readonly line: number; readonly what: string } | null {
  let found: { line: number; what: string } | null = null;
  parseFragment(markup, {
    sourceCodeLocationInfo: true,
    onParseError: ({ code, startLine }) => {
      // A character that can’t be shown breaks nothing.
      if (!/character|surrogate/.test(code)) found ??= { line: startLine, what: code.replaceAll('-', ' ') };
    },
  });
  return found ?? unclosedIn(markup);
}

/** Elements that need no end, or whose end may be left out (HTML, 13.1.2). */
const ENDLESS = new Set(
  'area base br col embed hr img input link meta source track wbr html head body p li dt dd option optgroup tr td th thead tbody tfoot colgroup caption rt rp'.split(
    ' ',
  ),
);

function unclosedIn(markup: string): { readonly line: number; readonly what: string } | null {
  const walk = (node: Node): { line: number; what: string } | null => {
    if ('tagName' in node && node.sourceCodeLocation && !node.sourceCodeLocation.endTag && !ENDLESS.has(node.tagName)) {
      const isSvg = 'namespaceURI' in node && node.namespaceURI.endsWith('svg');
      if (!isSvg) return { line: node.sourceCodeLocation.startLine, what: `<${node.tagName}> is not closed` };
    }
    const inner = 'content' in node ? node.content : node;
    if (!('childNodes' in inner)) return null;
    for (const child of inner.childNodes) {
      const found = walk(child);
      if (found) return found;
    }
    return null;
  };
  return walk(parseFragment(markup, { sourceCodeLocationInfo: true }));
}
