import { linksOf, type PageDocument } from '../document/index.js';
import type { PageId } from '../plan/index.js';
import { found, type Finding } from './finding.js';

/** What is known of a page while another one is edited: its name, and why a link to it would lead nowhere now. */
export interface KnownPage {
  readonly name: string;
  /** `null` where a visitor gets there, now or as planned. */
  readonly off: 'binned' | 'never' | 'ended' | null;
}

/**
 * Links of a draft to pages that visitors can’t reach, as far as that is known without its plan; the release judges
 * them again, over the time it is for. A list of pages leaves out by itself what is not live.
 */
export function draftLinkFindingsOf(
  document: PageDocument,
  own: PageId,
  known: (id: PageId) => KnownPage | null,
): Finding[] {
  const { canonical } = document.metadata;
  const named = canonical?.kind === 'page' && canonical.pageId !== own ? known(canonical.pageId) : null;
  const unnamed =
    canonical && named?.off
      ? [found('canonical', 'worth-fixing', 'canonical-off', { page: named.name, at: null }, { metadata: 'canonical' })]
      : [];
  const links = linksOf(document).flatMap(({ value, blockId, field, isListed }): Finding[] => {
    if (value.kind !== 'page' || value.pageId === own) return [];
    const page = known(value.pageId);
    if (!page?.off || (isListed && page.off !== 'binned')) return [];
    const params = { page: page.name, why: page.off };
    const finding = found('links', 'worth-fixing', isListed ? 'listed-off' : 'link-off', params, { blockId, field });
    return [{ ...finding, toPage: value.pageId }];
  });
  return [...links, ...unnamed];
}
