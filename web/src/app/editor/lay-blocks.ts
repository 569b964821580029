import type { Block } from '@domatium/core/document';
import { blockHtml, type RenderContext } from '@domatium/core/render';
import morphdom from 'morphdom';

/**
 * Lays blocks over what stands in `main`: only those that render differently from what `shown` holds are touched, and a
 * picture in one keeps its element. The element somebody types in is left alone, also where its text is empty now and
 * visitors would not get it. Gives the markup that is shown, by block.
 */
export function layBlocks(
  main: Element,
  blocks: readonly Block[],
  context: RenderContext,
  shown: ReadonlyMap<string, string>,
  typed: Element | null,
): Map<string, string> {
  const next = new Map(blocks.map((block) => [block.id, blockHtml(block, context).markup]));
  for (const section of [...main.children]) if (!next.has(section.id.slice(2))) section.remove();
  blocks.forEach(({ id }, index) => {
    const markup = next.get(id) ?? '';
    let section = main.querySelector<HTMLElement>(`:scope > #b-${id}`);
    if (!section) {
      section = main.ownerDocument.createElement('section');
      section.id = `b-${id}`;
    }
    if (main.children[index] !== section) main.insertBefore(section, main.children[index] ?? null);
    if (shown.get(id) === markup) return;
    const isChosen = section.classList.contains('is-chosen');
    morph(section, markup, typed);
    if (isChosen) main.querySelector(`:scope > #b-${id}`)?.classList.add('is-chosen');
  });
  return next;
}

function morph(section: HTMLElement, markup: string, typed: Element | null): void {
  morphdom(section, markup, {
    getNodeKey: (node) => (node as HTMLElement).dataset?.['field'] ?? (node as HTMLElement).id,
    onBeforeElUpdated: (from, to) => from !== typed && !from.isEqualNode(to),
    onBeforeNodeDiscarded: (node) => !typed || !node.contains(typed),
  });
}
