import { blockTypes } from '../blocks/registry.js';
import { blankValue } from '../fields/fields.js';
import type { Block, PageDocument } from '../fields/types.js';

/** A block with all fields of its type: one that was kept before its type had a field holds that blank. */
export function completeBlock(block: Block): Block {
  const missing = blockTypes[block.type].fields.filter(({ key }) => !Object.hasOwn(block.fields, key));
  return missing.length
    ? {
        ...block,
        fields: { ...block.fields, ...Object.fromEntries(missing.map((field) => [field.key, blankValue(field)])) },
      }
    : block;
}

/** The same document where nothing is missing. */
export function completeDocument(document: PageDocument): PageDocument {
  const blocks = document.blocks.map(completeBlock);
  return blocks.every((block, at) => block === document.blocks[at]) ? document : { ...document, blocks };
}
