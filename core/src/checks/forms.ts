import { blockTypes } from '../blocks/registry.js';
import { formFaultsOf } from '../forms/index.js';
import { found, type DocumentCheck } from './finding.js';

/** A form that can't work blocks: visitors would not get it at all. */
export const forms: DocumentCheck = ({ document }) =>
  document.blocks.flatMap(({ id, type, fields }) => {
    const form = blockTypes[type].form?.(fields);
    return form
      ? formFaultsOf(form).map((code) => found('forms', 'blocks', code, {}, { blockId: id, field: 'button' }))
      : [];
  });
