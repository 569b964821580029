import { blockWords } from '@domatium/core/document';
import type { MergeConflict } from '@domatium/core/document';

/** What two people did to one block, in the words of the one who reads it. */
export function conflictWords({ blockId, mine, theirs }: MergeConflict): string {
  if (blockId === 'page') return 'Title or description: both changed them.';
  const block = mine ?? theirs;
  const words = block ? blockWords(block) : 'A block';
  if (!mine) return `${words}: you removed it, they changed it.`;
  return theirs ? `${words}: both changed it.` : `${words}: you changed it, they removed it.`;
}
