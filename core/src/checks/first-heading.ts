import { blockTypes } from '../blocks/registry.js';
import type { DocumentCheck, Finding } from './finding.js';

/** A page has exactly one first heading, with words in it. */
export const firstHeading: DocumentCheck = ({ document }) => {
  const openings = document.blocks.filter(({ type }) => blockTypes[type].firstHeadings > 0);
  const [first, second] = openings;
  const block = (code: NonNullable<Finding['code']>, message: string, mend: string, blockId?: string) => [
    {
      check: 'first-heading',
      code,
      severity: 'blocks' as const,
      message,
      mend,
      place: blockId ? { blockId, field: 'heading' } : null,
    },
  ];
  if (!first) return block('none', 'The page has no first heading.', 'Add an opening block.');
  if (second)
    return block(
      'several',
      `The page has ${openings.length} first headings; it needs exactly one.`,
      'Remove an opening block, or make it a text.',
      second.id,
    );
  if (typeof first.fields['heading'] !== 'string' || !first.fields['heading'].trim())
    return block('empty', 'The first heading is empty.', 'Write it.', first.id);
  return [];
};
