import { blockTypes } from '../blocks/registry.js';
import type { DocumentCheck } from './finding.js';

/** What blocks find wrong with themselves. */
export const blocks: DocumentCheck = ({ document }) =>
  document.blocks.flatMap(({ id, type, fields }) =>
    (blockTypes[type].findings?.(fields) ?? []).map(({ field, ...finding }) => ({
      check: type,
      ...finding,
      place: { blockId: id, field },
    })),
  );
