import { picturesOf } from '../document/index.js';
import { found, type DocumentCheck } from './finding.js';

/** Every picture is described, or said to be decorative (WCAG 2.2, 1.1.1). */
export const pictureDescription: DocumentCheck = ({ document }) =>
  picturesOf(document)
    .filter(({ value, isGround }) => !isGround && !value.isDecorative && !value.description.trim())
    .map(({ blockId, field, label }) =>
      found('picture-description', 'blocks', 'picture-undescribed', { label }, { blockId, field }),
    );
