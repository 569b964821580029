import { blockTypes } from '@domatium/core/blocks';
import { differencesOf, type BlockDifference, type PageDocument } from '@domatium/core/document';

const HOW: Record<BlockDifference['how'], string> = {
  changed: 'differs',
  'only-in-first': 'only in mine',
  'only-in-second': 'only in the other',
};

/** Where one's own text and another's differ, a line each. */
export function differenceWords(mine: PageDocument, theirs: PageDocument): string[] {
  const { blocks, isMetadataChanged, isReordered } = differencesOf(mine, theirs);
  return [
    ...blocks.map(({ block, how }) => {
      const type = blockTypes[block.type];
      const words = type.summary(block.fields);
      return `${type.label}${words ? ` “${words}”` : ''}: ${HOW[how]}`;
    }),
    ...(isMetadataChanged ? ['Title or description: differs'] : []),
    ...(isReordered ? ['The order of blocks: differs'] : []),
  ];
}
