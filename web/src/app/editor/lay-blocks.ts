import type { Block } from '@domatium/core/document';
import { blockHtml, contextOf, type RenderWorld } from '@domatium/core/render';
import morphdom from 'morphdom';
import { inertMarkup } from '../shared/trusted';

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
        const { markup } = blockHtml(block, contextOf(world, true, first));
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
  next: ReadonlyMap<string, string>,
  shown: ReadonlyMap<string, string>,
  typed: Element | null,
): void {
  const sections = new Map<string, HTMLElement>();
  for (const section of [...main.children] as HTMLElement[])
    if (next.has(section.id.slice(2))) sections.set(section.id.slice(2), section);
    else section.remove();
  let at = main.firstElementChild;
  for (const [id, markup] of next) {
    let section = sections.get(id);
    if (!section) {
      section = main.ownerDocument.createElement('section');
      section.id = `b-${id}`;
    }
    if (at === section) at = at.nextElementSibling;
    else main.insertBefore(section, at);
    if (shown.get(id) === markup) continue;
    const isChosen = section.classList.contains('is-chosen');
    morph(section, markup, typed);
    if (isChosen) main.querySelector(`:scope > #b-${id}`)?.classList.add('is-chosen');
  }
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
