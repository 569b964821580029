import { blockWords } from '@domatium/core/document';
import type { MergeConflict } from '@domatium/core/document';
import { say } from '@domatium/core/words/editor';

/** What two people did to one block, in the words of the one who reads it. */
export function conflictWords({ blockId, mine, theirs }: MergeConflict): string {
  if (blockId === 'page') return say.titleOrDescriptionBothChangedThem;
  const block = mine ?? theirs;
  const words = block ? blockWords(block) : say.aBlock;
  if (!mine) return say.youRemovedItTheyChangedIt(words);
  return theirs ? say.bothChangedIt(words) : say.youChangedItTheyRemovedIt(words);
}
