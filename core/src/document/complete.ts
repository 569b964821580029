import { blockTypes } from '../blocks/registry.js';
import { blankValue, type FieldValues } from '../fields/fields.js';
import type { BlockType } from '../fields/names.js';
import type { Block, PageDocument } from '../fields/types.js';

/** The version of a type's fields; blocks of the first say nothing of it. */
export const versionOf = (type: BlockType): number => 1 + (blockTypes[type].upgrades?.length ?? 0);

/** What a block of a type says of its version. */
export const versionMark = (type: BlockType): Pick<Block, 'version'> =>
  versionOf(type) > 1 ? { version: versionOf(type) } : {};

/** Fields that were written with some version of their type, as they are now. */
export function upgradedFields(type: BlockType, fields: FieldValues, version = 1): FieldValues {
  return (blockTypes[type].upgrades ?? []).slice(version - 1).reduce((values, upgrade) => upgrade(values), fields);
}

/** A block as its type is now: upgraded, and with those fields blank that its type did not have. */
export function completeBlock(block: Block): Block {
  const { type, version = 1 } = block;
  const upgraded =
    version < versionOf(type)
      ? { ...block, ...versionMark(type), fields: upgradedFields(type, block.fields, version) }
      : block;
  const missing = blockTypes[type].fields.filter(({ key }) => !Object.hasOwn(upgraded.fields, key));
  return missing.length
    ? {
        ...upgraded,
        fields: { ...upgraded.fields, ...Object.fromEntries(missing.map((field) => [field.key, blankValue(field)])) },
      }
    : upgraded;
}

/** The same document where nothing is missing. */
export function completeDocument(document: PageDocument): PageDocument {
  const blocks = document.blocks.map(completeBlock);
  return blocks.every((block, at) => block === document.blocks[at]) ? document : { ...document, blocks };
}
