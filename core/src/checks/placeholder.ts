import { textsOf } from '../document/index.js';
import { found, type DocumentCheck } from './finding.js';

const MARKED = /‹[^›]*›/;

/** The first content of a new block is marked with ‹ ›; visitors should never read it. One finding a block. */
export const placeholder: DocumentCheck = ({ document }) => {
  const seen = new Set<string>();
  return textsOf(document).flatMap(({ blockId, field, label, value }) => {
    const [marked] = MARKED.exec(value) ?? [];
    if (!marked || seen.has(blockId)) return [];
    seen.add(blockId);
    const params = { label, text: marked.slice(1, -1) };
    return [found('placeholder', 'worth-fixing', 'placeholder', params, { blockId, field })];
  });
};
