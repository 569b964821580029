import { picturesOf } from '../document/index.js';
import type { DocumentCheck } from './finding.js';

/** Every picture is described, or said to be decorative (WCAG 2.2, 1.1.1). */
export const pictureDescription: DocumentCheck = ({ document }) =>
  picturesOf(document)
    .filter(({ value }) => !value.isDecorative && !value.description.trim())
    .map(({ blockId, field, label }) => ({
      check: 'picture-description',
      severity: 'blocks',
      message: `${label} has no description.`,
      mend: 'Describe it for people who can’t see it, or mark it as decorative.',
      place: { blockId, field },
    }));
