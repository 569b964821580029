import { picturesOf } from '../document/index.js';
import { found, type DocumentCheck } from './finding.js';

/** Every picture is described, or said to be decorative (WCAG 2.2, 1.1.1). */
export const pictureDescription: DocumentCheck = ({ document }) =>
  picturesOf(document)
    .filter(({ value, isGround }) => !isGround && !value.isDecorative && !value.description.trim())
    .map(({ blockId, field, label }) =>
      found('picture-description', 'blocks', 'picture-undescribed', { label }, { blockId, field }),
    );

/** A picture of at most so many pixels a side is a mark or a mistake, not something that is seen. */
export const TINY = 8;

/** Pictures that nobody would see. */
export const pictureTiny: DocumentCheck = ({ document, tiny }) =>
  tiny?.size
    ? picturesOf(document)
        .filter(({ value }) => tiny.has(value.pictureId))
        .map(({ blockId, field, label }) =>
          found('picture-tiny', 'worth-fixing', 'picture-tiny', { label, most: TINY }, { blockId, field }),
        )
    : [];
