import { INLINE, isHidden, wordsOf, type HtmlElement, type HtmlNode } from './tree.js';

/** A tree that means what it shows, and what was left out of it: how many of each. */
export interface Cleaned {
  readonly root: HtmlElement;
  readonly left: ReadonlyMap<string, number>;
}

/** What shows something that pages can't take along, by its element. */
const LEFT_OUT = new Set('iframe object embed video audio svg canvas math button select textarea'.split(' '));
/** So many words a form holds at most; what holds more is a page with a form around it. */
const FORM_WORDS = 400;

/**
 * HTML as it is found on a clipboard or in a file, without what it hides, with the lists of word processors as lists and
 * their titles as headings, and with no format around what stands in lines of its own.
 */
export function cleaned(root: HtmlElement): Cleaned {
  const left = new Map<string, number>();
  const leave = (what: string) => void left.set(what, (left.get(what) ?? 0) + 1);
  return { root: { ...root, children: childrenOf(root.children, leave) }, left };
}

function childrenOf(nodes: readonly HtmlNode[], leave: (what: string) => void): HtmlNode[] {
  const kept = nodes.flatMap((node): HtmlNode[] => {
    if (typeof node === 'string') return [node];
    if (isHidden(node)) {
      if (wordsOf({ ...node, attributes: {} })) leave('hidden');
      return [];
    }
    if (LEFT_OUT.has(node.tag) || (node.tag === 'form' && wordsOf(node).length <= FORM_WORDS)) {
      leave(node.tag);
      return [];
    }
    return pushedDown({ ...asMeant(node), children: childrenOf(node.children, leave) });
  });
  return listed(kept);
}

/** Elements that word processors make up, as what they mean. */
function asMeant(node: HtmlElement): HtmlElement {
  const { tag, attributes } = node;
  if (tag.includes(':')) return { ...node, tag: 'span' };
  if (tag === 'p' && /\bMsoTitle\b/.test(attributes['class'] ?? '')) return { ...node, tag: 'h1' };
  if (attributes['role'] === 'heading')
    return { ...node, tag: `h${Math.min(6, Math.max(1, Number(attributes['aria-level'] ?? 2) || 2))}` };
  return node;
}

const isBlock = (node: HtmlNode): boolean =>
  typeof node !== 'string' && (!INLINE.has(node.tag) || node.children.some(isBlock));

/** A format or a link around whole paragraphs stands within each of them. */
function pushedDown(node: HtmlElement): HtmlNode[] {
  if (!INLINE.has(node.tag) || !node.children.some(isBlock)) return [node];
  return node.children.flatMap((child): HtmlNode[] => {
    if (typeof child === 'string') return child.trim() ? [{ ...node, children: [child] }] : [child];
    if (!isBlock(child)) return [{ ...node, children: [child] }];
    return [{ ...child, children: pushedDown({ ...node, children: child.children }) }];
  });
}

interface Item {
  readonly level: number;
  readonly isNumbered: boolean;
  readonly node: HtmlElement;
}

/** Paragraphs that a word processor shows as a list become one. */
function listed(nodes: readonly HtmlNode[]): HtmlNode[] {
  const out: HtmlNode[] = [];
  let items: Item[] = [];
  const close = () => {
    if (items.length) out.push(...listsOf(items));
    items = [];
  };
  for (const node of nodes) {
    const item = typeof node === 'string' ? null : itemOf(node);
    if (item) items.push(item);
    else if (typeof node !== 'string' || node.trim() || !items.length) {
      close();
      out.push(node);
    }
  }
  close();
  return out;
}

const OFFICE_ITEM = /mso-list:\s*l\d+\s+level(\d+)/i;
const OFFICE_MARK = /mso-list:\s*ignore|mso-special-format:\s*'?(num)?bullet/i;
/** Bullets as people type them, with the space that follows. */
const TYPED_MARK = /^[\s\u00a0]*[·•◦▪‣●○■][\s\u00a0]+/;
const NUMBER = /^[\s\u00a0]*\(?([0-9]+|[a-z]|[ivxlcdm]+)[.)]/i;

function itemOf(node: HtmlElement): Item | null {
  if (!/^(p|div|li|h[1-6])$/.test(node.tag) || node.children.some(isBlock)) return null;
  const level = OFFICE_ITEM.exec(node.attributes['style'] ?? '')?.[1];
  const marks = marksOf(node);
  const words = wordsOf(node);
  if (node.tag === 'li' || /^h/.test(node.tag)) return null;
  if (!level && !marks.length && !TYPED_MARK.test(words)) return null;
  const mark = marks.map(wordsOf).join('') || words;
  const bare = withoutStart(without(node), TYPED_MARK);
  return { level: Number(level ?? 1), isNumbered: NUMBER.test(mark) && (!!marks.length || !!level), node: bare };
}

const isMark = ({ attributes }: HtmlElement) => OFFICE_MARK.test(attributes['style'] ?? '');
const marksOf = (node: HtmlElement): HtmlElement[] =>
  node.children.flatMap((child) => (typeof child === 'string' ? [] : isMark(child) ? [child] : marksOf(child)));

/** A line without the marks that a word processor wrote before it. */
const without = (node: HtmlElement): HtmlElement => ({
  ...node,
  children: node.children.flatMap((child): HtmlNode[] =>
    typeof child === 'string' ? [child] : isMark(child) ? [] : [without(child)],
  ),
});

/** A line without what its first words begin with. */
function withoutStart(node: HtmlElement, start: RegExp): HtmlElement {
  let isDone = false;
  const strip = (one: HtmlNode): HtmlNode => {
    if (isDone) return one;
    if (typeof one === 'string') {
      if (one.trim()) isDone = true;
      return one.replace(start, '');
    }
    return { ...one, children: one.children.map(strip) };
  };
  return { ...node, children: node.children.map(strip) };
}

/** Items as lists within each other, by their levels. */
function listsOf(items: readonly Item[]): HtmlElement[] {
  const lists: HtmlElement[] = [];
  for (let at = 0; at < items.length;) {
    const first = items[at] as Item;
    const entries: HtmlElement[] = [];
    while (at < items.length) {
      const item = items[at] as Item;
      if (item.level < first.level || (item.level === first.level && item.isNumbered !== first.isNumbered)) break;
      if (item.level === first.level) {
        entries.push({ tag: 'li', attributes: {}, children: item.node.children });
        at++;
        continue;
      }
      const inner: Item[] = [];
      while (at < items.length && (items[at] as Item).level > first.level) inner.push(items[at++] as Item);
      const last = entries.pop() as HtmlElement;
      entries.push({ ...last, children: [...last.children, ...listsOf(inner)] });
    }
    lists.push({ tag: first.isNumbered ? 'ol' : 'ul', attributes: {}, children: entries });
  }
  return lists;
}
