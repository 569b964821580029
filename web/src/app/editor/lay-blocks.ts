import { isRow, rowsOf, type Block, type Column } from '@domatium/core/document';
import { blockHtml, contextOf, type FirstPicture, type RenderWorld } from '@domatium/core/render';
import morphdom from 'morphdom';
import { BLOCK } from './canvas-places';
import { inertMarkup } from '../shared/trusted';

/** What blocks are rendered with on the canvas: own HTML runs over it, and stands in it as text alone. */
export const canvasContext = (world: RenderWorld, first?: FirstPicture) =>
  contextOf({ ...world, waysAround: world.waysAround ?? NOWHERE, apart: (markup) => ({ held: markup }) }, true, first);

const NOWHERE = { nav: null, pageId: null };

interface Rendered {
  readonly block: Block;
  /** Whether the page’s first picture was still to come before it, and behind it. */
  readonly before: boolean;
  readonly behind: boolean;
  readonly markup: string;
}

/** The markup of the blocks of a page, rendered again only where a block or the world it stands in is another. */
export class BlockRenders {
  private world: RenderWorld | null = null;
  private known = new Map<string, Rendered>();

  of(blocks: readonly Block[], world: RenderWorld): Map<string, string> {
    if (this.world !== world) this.known.clear();
    this.world = world;
    const first = { isToCome: true };
    const next = new Map<string, Rendered>();
    for (const block of blocks) {
      const before = first.isToCome;
      const known = this.known.get(block.id);
      if (known && known.block === block && known.before === before) {
        first.isToCome = known.behind;
        next.set(block.id, known);
      } else {
        const { markup } = blockHtml(block, canvasContext(world, first));
        next.set(block.id, { block, before, behind: first.isToCome, markup });
      }
    }
    this.known = next;
    return new Map([...next].map(([id, { markup }]) => [id, markup]));
  }
}

/**
 * Lays blocks over what stands in `main`: only those that render differently from what `shown` holds are touched, and a
 * picture in one keeps its element. The element somebody types in is left alone, also where its text is empty now and
 * visitors would not get it.
 */
export function layBlocks(
  main: Element,
  blocks: readonly Block[],
  next: ReadonlyMap<string, string>,
  shown: ReadonlyMap<string, string>,
  typed: Element | null,
): void {
  const page = main.ownerDocument;
  const sectionOf = ({ id }: Block): HTMLElement => {
    const known = main.querySelector<HTMLElement>(`#b-${id}`);
    if (known) return known;
    const section = page.createElement('section');
    section.id = `b-${id}`;
    return section;
  };
  // Rows keep their elements, by the block they begin with, so that nothing in them is moved for what stands elsewhere.
  const rows = new Map([...main.querySelectorAll('.row')].map((row) => [row.querySelector(BLOCK)?.id, row]));
  const rowOf = (columns: readonly Column[]): Element => {
    const row = rows.get(`b-${columns[0]?.blocks[0]?.id}`) ?? page.createElement('div');
    row.className = 'row';
    const elements = columns.map((column, n) => {
      const element = row.children[n] ?? page.createElement('div');
      element.className = ['column-of', `share-${column.share}`].join(' ');
      arrange(element, column.blocks.map(sectionOf));
      return element;
    });
    arrange(row, elements);
    return row;
  };
  arrange(
    main,
    rowsOf(blocks).map((row) => (isRow(row) ? rowOf(row) : sectionOf(row[0]))),
  );
  for (const [id, markup] of next) {
    const section = shown.get(id) === markup ? null : main.querySelector<HTMLElement>(`#b-${id}`);
    if (!section) continue;
    const isChosen = section.classList.contains('is-chosen');
    morph(section, markup, typed);
    if (isChosen) main.querySelector<HTMLElement>(`#b-${id}`)?.classList.add('is-chosen');
  }
}

/** Makes these the children of an element, in this order; those that stand right are not touched. */
function arrange(parent: Element, children: readonly Element[]): void {
  const wanted = new Set(children);
  for (const child of [...parent.children]) if (!wanted.has(child)) child.remove();
  let at = parent.firstElementChild;
  for (const child of children)
    if (at === child) at = at.nextElementSibling;
    else parent.insertBefore(child, at);
}

function morph(section: HTMLElement, markup: string, typed: Element | null): void {
  const template = document.createElement('template');
  template.innerHTML = inertMarkup(markup);
  const next = template.content.firstElementChild;
  if (!next) return;
  morphdom(section, next, {
    getNodeKey: (node) => (node as HTMLElement).dataset?.['field'] ?? (node as HTMLElement).id,
    onBeforeElUpdated: (from, to) => from !== typed && !from.isEqualNode(to),
    onBeforeNodeDiscarded: (node) => !typed || !node.contains(typed),
  });
}
