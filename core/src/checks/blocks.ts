import { blockTypes } from '../blocks/registry.js';
import { found, type DocumentCheck } from './finding.js';

/** What blocks find wrong with themselves. */
export const blocks: DocumentCheck = ({ document }) =>
  document.blocks.flatMap(({ id, type, fields }) =>
    (blockTypes[type].findings?.(fields) ?? []).map(({ field, severity, code, params = {} }) =>
      found(type, severity, code, params as never, { blockId: id, field }),
    ),
  );
