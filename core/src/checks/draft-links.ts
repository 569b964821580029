import { linksOf, type PageDocument } from '../document/index.js';
import type { PageId } from '../plan/index.js';
import type { Finding } from './finding.js';

/** What is known of a page while another one is edited: its name, and why a link to it would lead nowhere now. */
export interface KnownPage {
  readonly name: string;
  /** `null` where a visitor gets there, now or as planned. */
  readonly off: 'binned' | 'never' | 'ended' | null;
}

const WHY = {
  binned: { is: 'is in the bin', mend: 'Choose another page, or restore that one.' },
  never: { is: 'was never released, and nothing is planned', mend: 'Choose another page, or release that one first.' },
  ended: { is: 'is off, and nothing is planned', mend: 'Choose another page, or release that one again.' },
};

/**
 * Links of a draft to pages that visitors can’t reach, as far as that is known without its plan; the release judges
 * them again, over the time it is for. A list of pages leaves out by itself what is not live.
 */
export function draftLinkFindingsOf(
  document: PageDocument,
  own: PageId,
  known: (id: PageId) => KnownPage | null,
): Finding[] {
  return linksOf(document).flatMap(({ value, blockId, field, isListed }): Finding[] => {
    if (value.kind !== 'page' || value.pageId === own) return [];
    const page = known(value.pageId);
    if (!page?.off || (isListed && page.off !== 'binned')) return [];
    const { is, mend } = WHY[page.off];
    const message = isListed
      ? `${page.name} stands in this list and ${is}.`
      : `The link to ${page.name} is broken: that page ${is}.`;
    return [
      { check: 'links', severity: 'worth-fixing', message, mend, place: { blockId, field }, toPage: value.pageId },
    ];
  });
}
