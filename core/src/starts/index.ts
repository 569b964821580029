import { exampleBlock, type FieldValues, type PageDocument } from '../document/index.js';
import { starts, type StartDefinition } from './definitions.js';

export { starts, type StartDefinition } from './definitions.js';
export type Start = keyof typeof starts;
/** Every start, in the order they are offered. */
export const STARTS = Object.keys(starts) as Start[];

/** The draft of a new page. `newId` makes the identities of its blocks. Texts in ‹ › ask to be replaced. */
export function startDocument(start: Start, name: string, newId: () => string): PageDocument {
  const definition: StartDefinition = starts[start];
  return {
    metadata: { title: name.slice(0, 200), description: '' },
    blocks: definition.blocks(name.slice(0, 160)).map(([type, fields]) => {
      const block = exampleBlock(type, newId());
      return { ...block, fields: { ...block.fields, ...(fields as FieldValues | undefined) } };
    }),
  };
}

export { changeStart, type StartChange } from './change.js';
