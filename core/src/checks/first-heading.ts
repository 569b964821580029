import { blockTypes } from '../blocks/registry.js';
import { found, type DocumentCheck } from './finding.js';

/** A page has exactly one first heading, with words in it. */
export const firstHeading: DocumentCheck = ({ document }) => {
  const openings = document.blocks.filter(({ type }) => blockTypes[type].firstHeadings > 0);
  const [first, second] = openings;
  const at = (blockId: string) => ({ blockId, field: 'heading' });
  if (!first) return [found('first-heading', 'blocks', 'heading-none', {}, null)];
  if (second) return [found('first-heading', 'blocks', 'heading-several', { count: openings.length }, at(second.id))];
  const { heading } = first.fields;
  return typeof heading === 'string' && heading.trim()
    ? []
    : [found('first-heading', 'blocks', 'heading-empty', {}, at(first.id))];
};
