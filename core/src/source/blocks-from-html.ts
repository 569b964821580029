import {
  MAX_BLOCKS,
  newBlock,
  plainTextOf,
  type Block,
  type FieldValues,
  type RichBlock,
  type RichText,
} from '../document/index.js';
import { CELLS, rowOf } from '../blocks/table/schema.js';
import { cleaned } from './cleaned.js';
import { richFromHtml } from './rich-html.js';
import { elementsOf, isSilent, wordsOf, type HtmlElement, type HtmlNode } from './tree.js';

/** A picture that is named in HTML: the block that waits for it, and where it lies. */
export interface NamedPicture {
  readonly blockId: string;
  readonly src: string;
  readonly description: string;
}

export interface FromHtml {
  readonly title: string;
  readonly description: string;
  readonly blocks: readonly Block[];
  readonly pictures: readonly NamedPicture[];
  /** What did not come along, in words. */
  readonly left: readonly string[];
}

/** As much text stands in one block, as much in a quote, in characters; so many rows in a table. */
const MOST_TEXT = 60_000;
const MOST_SAID = 1000;
const MOST_HEADING = 200;
const MOST_WHO = 120;
const MOST_ROWS = 60;

/**
 * What pages can hold of an HTML document, as blocks in its order: texts, pictures, tables, quotes, questions that open,
 * lines between parts. Its look, its scripts and what it embeds stay behind, and are named. With `asPage` its first
 * heading becomes the opening. No more than `most` blocks come out: texts that follow each other are joined where there are more.
 */
export function blocksFromHtml(
  root: HtmlElement,
  newId: () => string,
  asPage: boolean,
  most = MAX_BLOCKS - 1,
): FromHtml {
  const { root: whole, left } = cleaned(root);
  const reader = new Reader(newId, asPage, left);
  reader.read(bodyOf(whole).children);
  reader.close();
  const meta = elementsOf(root, 'meta').find(({ attributes }) => attributes['name']?.toLowerCase() === 'description');
  const [title] = elementsOf(root, 'title');
  return {
    title: title
      ? title.children
          .filter((child) => typeof child === 'string')
          .join('')
          .trim()
          .slice(0, 200)
      : '',
    description: (meta?.attributes['content'] ?? '').trim().slice(0, 500),
    ...reader.done(elementsOf(root, 'script').length, most),
  };
}

export const bodyOf = (root: HtmlElement): HtmlElement =>
  elementsOf(root, 'main')[0] ?? elementsOf(root, 'body')[0] ?? root;

class Reader {
  private readonly blocks: Block[] = [];
  private readonly pictures: NamedPicture[] = [];
  private readonly left: Map<string, number>;
  private text: HtmlNode[] = [];

  constructor(
    private readonly newId: () => string,
    private hasNoOpening: boolean,
    left: ReadonlyMap<string, number>,
  ) {
    this.left = new Map(left);
  }

  read(nodes: readonly HtmlNode[]): void {
    for (const node of nodes) {
      if (typeof node === 'string') this.text.push(node);
      else if (!isSilent(node)) this.element(node);
    }
  }

  private element(node: HtmlElement): void {
    const { tag, children } = node;
    if (/^h[12]$/.test(tag)) {
      this.close();
      if (this.hasNoOpening && wordsOf(node) && wordsOf(node).length <= MOST_HEADING) {
        this.hasNoOpening = false;
        this.add('opening', { layout: 'stacked', heading: wordsOf(node) });
      } else this.text.push(node);
      elementsOf(node, 'img').forEach((img) => this.picture(img));
    } else if (tag === 'img') this.picture(node);
    else if (tag === 'table') this.table(node);
    else if (tag === 'blockquote') this.quote(node);
    else if (tag === 'details') this.question(node);
    else if (tag === 'hr') this.add('divider', {});
    else if (['p', 'ul', 'ol', 'h3', 'h4', 'h5', 'h6', 'pre', 'dl'].includes(tag)) {
      // A picture within a paragraph stands beside its text.
      const inside = elementsOf(node, 'img');
      if (wordsOf(node)) this.text.push(node);
      inside.forEach((img) => this.picture(img));
    } else if (
      elementsOf(node, 'img').length ||
      children.some((child) => typeof child !== 'string' && !isInlineOnly(child))
    ) {
      this.read(children);
    } else this.text.push(node);
  }

  private add(type: Block['type'], fields: FieldValues): Block {
    this.close();
    const block = newBlock(type, this.newId(), fields);
    this.blocks.push(block);
    return block;
  }

  /** What was read of running text becomes one block, or several where it is long. */
  close(): void {
    const { content } = richFromHtml(this.text);
    this.text = [];
    let part: RichBlock[] = [];
    let length = 0;
    const put = () => {
      const body = { type: 'doc' as const, content: part };
      if (plainTextOf(body)) this.blocks.push(newBlock('text', this.newId(), { body }));
      part = [];
      length = 0;
    };
    for (const block of content) {
      const more = plainTextOf({ type: 'doc', content: [block] }).length;
      if (length && length + more > MOST_TEXT) put();
      part.push(block);
      length += more;
    }
    put();
  }

  private picture(img: HtmlElement): void {
    const { attributes } = img;
    const src = attributes['src'] ?? '';
    const description = (attributes['alt'] ?? '').slice(0, 500);
    if (!src || isDot(img)) return;
    const { id } = this.add('picture', { caption: (attributes['title'] ?? '').slice(0, 300) });
    this.pictures.push({ blockId: id, src, description });
  }

  private table(node: HtmlElement): void {
    const [caption] = ownOf(node, 'caption');
    const rows = ownOf(node, 'tr').map((row) =>
      row.children.filter((cell): cell is HtmlElement => typeof cell !== 'string' && /^t[dh]$/.test(cell.tag)),
    );
    const filled = rows.map((cells) => cells.flatMap(spread)).filter((cells) => cells.some(Boolean));
    const isTable =
      filled.length > 1 &&
      !rows.flat().some((cell) => elementsOf(cell, 'table').length) &&
      filled.every((cells) => cells.length <= CELLS.length && cells.every(isShort));
    // One row lays words beside each other; so does a table of long texts, or one around others: cells are read one by one.
    if (!isTable || (caption && !isShort(wordsOf(caption)))) {
      if (caption) this.read([{ ...caption, tag: 'p' }]);
      for (const cells of rows) this.read(cells.map((cell) => ({ ...cell, tag: 'div' })));
      return;
    }
    // Pictures in cells stand below their table.
    const inside = rows.flat().flatMap((cell) => elementsOf(cell, 'img'));
    for (let rest = filled; rest.length;) {
      // One row alone would be no table.
      const count = rest.length === MOST_ROWS + 1 ? MOST_ROWS - 1 : MOST_ROWS;
      this.add('table', {
        heading: caption && rest === filled ? wordsOf(caption) : '',
        items: rest.slice(0, count).map((cells) => ({ ...rowOf(...cells) })),
      });
      rest = rest.slice(count);
    }
    inside.forEach((img) => this.picture(img));
  }

  private quote(node: HtmlElement): void {
    const [who] = [...elementsOf(node, 'cite'), ...elementsOf(node, 'footer')];
    const said = node.children.filter((child) => child !== who);
    const words = said.map(wordsOf).join(' ').trim();
    const by = who ? wordsOf(who) : '';
    const holdsMore = node.children.some(isHeld);
    if (holdsMore || words.length > MOST_SAID || by.length > MOST_WHO) this.read(node.children);
    else if (words || by) this.add('quote', { text: words, who: by });
  }

  private question(node: HtmlElement): void {
    const [summary] = node.children.filter((child) => typeof child !== 'string' && child.tag === 'summary');
    const question = summary ? wordsOf(summary) : '';
    const rest = node.children.filter((child) => child !== summary);
    const holdsMore = rest.some(isHeld);
    if (holdsMore || question.length > MOST_HEADING) {
      if (question) this.text.push({ tag: 'h3', attributes: {}, children: [question] });
      return this.read(rest);
    }
    const item = { question, answer: richFromHtml(rest) };
    this.close();
    const last = this.blocks.at(-1);
    const items = last?.type === 'questions' ? (last.fields['items'] as readonly FieldValues[]) : [];
    // Questions that follow each other are one block.
    if (last?.type === 'questions' && items.length < 40)
      this.blocks[this.blocks.length - 1] = { ...last, fields: { ...last.fields, items: [...items, item] } };
    else this.add('questions', { items: [item] });
  }

  done(scripts: number, most: number): Pick<FromHtml, 'blocks' | 'pictures' | 'left'> {
    if (scripts) this.left.set('script', scripts);
    const joined = joinTexts(this.blocks, most);
    const kept = joined.slice(0, most);
    if (kept.length < joined.length) this.left.set('block', joined.length - kept.length);
    const ids = new Set(kept.map(({ id }) => id));
    return {
      blocks: kept,
      pictures: this.pictures.filter(({ blockId }) => ids.has(blockId)),
      left: [...this.left].map(([what, count]) => leftWords(what, count)),
    };
  }
}

/** Texts that follow each other as one, those first that stand first, until no more than so many blocks are left. */
function joinTexts(blocks: readonly Block[], most: number): readonly Block[] {
  let now = blocks;
  for (let before = Infinity; now.length > most && now.length < before;) {
    before = now.length;
    let over = now.length - most;
    const next: Block[] = [];
    for (let at = 0; at < now.length; at++) {
      const [one, two] = [now[at] as Block, now[at + 1]];
      const [a, b] = [one, two].map((block) => (block?.type === 'text' ? (block.fields['body'] as RichText) : null));
      const both: RichText | null = a && b ? { type: 'doc', content: [...a.content, ...b.content] } : null;
      if (over > 0 && both && plainTextOf(both).length <= MOST_TEXT) {
        next.push({ ...one, fields: { ...one.fields, body: both } });
        over--;
        at++;
      } else next.push(one);
    }
    now = next;
  }
  return now;
}

const LEFT: Readonly<Record<string, string>> = {
  hidden: 'hidden part#',
  block: 'block# beyond the most that find a place',
};
/** What was left out, in words. */
export const leftWords = (what: string, count: number) =>
  `${count} ${(LEFT[what] ?? `${what}#`).replace('#', count === 1 ? '' : 's')}`;

/** Whether something in it stands on a page as a block of its own. */
export const isHeld = (node: HtmlNode): boolean =>
  ['table', 'img', 'hr', 'blockquote', 'details'].some((tag) => elementsOf(node, tag).some((one) => !isDot(one)));

/** Pictures of a dot count visits. */
const isDot = ({ tag, attributes }: HtmlElement) => tag === 'img' && Number(attributes['width'] ?? 9) <= 2;

/** What a cell says, with the empty cells it lies over. */
const spread = (cell: HtmlElement): string[] => [
  wordsOf(cell),
  ...Array.from({ length: Math.min(CELLS.length, Number(cell.attributes['colspan']) || 1) - 1 }, () => ''),
];

const isShort = (words: string) => words.length <= 200;

/** Elements of a table that are not those of a table within it. */
function ownOf(node: HtmlElement, tag: string): HtmlElement[] {
  return node.children.flatMap((child) =>
    typeof child === 'string' || child.tag === 'table' ? [] : child.tag === tag ? [child] : ownOf(child, tag),
  );
}

const isInlineOnly = (node: HtmlElement): boolean =>
  !BLOCKS.has(node.tag) && node.children.every((child) => typeof child === 'string' || isInlineOnly(child));
const BLOCKS = new Set(
  'p div section article main header footer nav aside ul ol li table blockquote details figure h1 h2 h3 h4 h5 h6 hr pre dl img'.split(
    ' ',
  ),
);
