import type { Block, PageDocument } from '../fields/index.js';
import { blockTypes } from '../blocks/registry.js';
import { DIFFERENCES } from '../words/differences.js';
import { differencesOf, type BlockDifference } from './difference.js';

/** A block in words: what it is, and what it says. */
export function blockWords({ type, fields }: Block): string {
  const definition = blockTypes[type];
  const words = definition.summary(fields);
  return words ? `${definition.label} “${words}”` : definition.label;
}

/** Where two states of a page differ, a line each; `how` says in words what is so of a block. */
export function differenceWords(
  first: PageDocument,
  second: PageDocument,
  how: Readonly<Record<BlockDifference['how'], string>>,
): string[] {
  const { blocks, isMetadataChanged, isReordered } = differencesOf(first, second);
  return [
    ...blocks.map((one) => `${blockWords(one.block)}: ${how[one.how]}`),
    ...(isMetadataChanged ? [`${DIFFERENCES.metadata}: ${how.changed}`] : []),
    ...(isReordered ? [`${DIFFERENCES.order}: ${how.changed}`] : []),
  ];
}
