import { canonical } from '../plan/index.js';
import type { Block, PageDocument } from '../fields/types.js';

/** One place where two states of a page differ. */
export interface BlockDifference {
  readonly block: Block;
  readonly how: 'changed' | 'only-in-first' | 'only-in-second';
}

/** Where two states of a page differ: blocks by their identity, in the order of the first; its metadata apart. */
export function differencesOf(
  first: PageDocument,
  second: PageDocument,
): { readonly blocks: readonly BlockDifference[]; readonly isMetadataChanged: boolean; readonly isReordered: boolean } {
  const others = new Map(second.blocks.map((block) => [block.id, block]));
  const own = new Set(first.blocks.map(({ id }) => id));
  const blocks: BlockDifference[] = [
    ...first.blocks.flatMap((block): BlockDifference[] => {
      const other = others.get(block.id);
      if (!other) return [{ block, how: 'only-in-first' }];
      return canonical(other) === canonical(block) ? [] : [{ block, how: 'changed' }];
    }),
    ...second.blocks
      .filter(({ id }) => !own.has(id))
      .map((block): BlockDifference => ({ block, how: 'only-in-second' })),
  ];
  const common = (document: PageDocument, ids: ReadonlySet<string>) =>
    document.blocks.map(({ id }) => id).filter((id) => ids.has(id));
  return {
    blocks,
    isMetadataChanged: canonical(first.metadata) !== canonical(second.metadata),
    isReordered: common(first, new Set(others.keys())).join() !== common(second, own).join(),
  };
}
