import { METADATA_TEXTS, picturesOf, textsOf } from '../document/index.js';
import { FIRST_CONTENT } from '../text/index.js';
import { METADATA_LABELS } from '../words/index.js';
import { found, type DocumentCheck, type Finding } from './finding.js';

/**
 * The first content of a new block is marked with ‹ ›; visitors should never read it. It holds a release back, unless the
 * site only wants it named.
 */
export const placeholder: DocumentCheck = ({ document }) => {
  const note = (label: string, value: string, place: Finding['place']): Finding[] => {
    const [marked] = FIRST_CONTENT.exec(value) ?? [];
    return marked ? [found('placeholder', 'blocks', 'placeholder', { label, text: marked.slice(1, -1) }, place)] : [];
  };
  return [
    ...METADATA_TEXTS.flatMap((key) => note(METADATA_LABELS[key], document.metadata[key] ?? '', { metadata: key })),
    ...textsOf(document).flatMap(({ blockId, field, label, value }) => note(label, value, { blockId, field })),
    ...picturesOf(document).flatMap(({ blockId, field, label, value }) =>
      note(label, value.description, { blockId, field }),
    ),
  ];
};
