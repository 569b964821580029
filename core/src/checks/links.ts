import { linksOf } from '../document/index.js';
import { followedOver } from '../routing/index.js';
import { found, type CheckInput, type Finding } from './finding.js';

/** What links are judged by; `isLive` where the document is on the air already. */
export type LinkCheckInput = Pick<CheckInput, 'document' | 'during' | 'planned' | 'pageId' | 'nameOf' | 'write'> & {
  readonly isLive?: boolean;
};

/**
 * A link that leads nowhere when the page goes live blocks; one that comes to lead nowhere later, or that leads
 * through a redirect, is worth fixing. A link to the page itself is left alone.
 */
export const links = ({ document, during, planned, pageId, nameOf, write, isLive }: LinkCheckInput): Finding[] =>
  linksOf(document).flatMap(({ value, blockId, field, isListed }): Finding[] => {
    // A page in a list of pages is left out by itself while it is not live.
    if (value.kind !== 'page' || value.pageId === pageId || isListed) return [];
    const stretches = followedOver(planned, value.pageId, during);
    const page = nameOf(value.pageId);
    const place = { blockId, field };
    const isNowhere = (kind: string) => kind === 'nothing' || kind === 'gone' || kind === 'loop';
    const [first, ...rest] = stretches;
    if (first && isNowhere(first.value.kind)) {
      const params = { page, isLive: isLive ?? false };
      return [found('links', isLive ? 'worth-fixing' : 'blocks', 'link-broken', params, place)];
    }
    const broken = rest.find((stretch) => isNowhere(stretch.value.kind));
    if (broken)
      return [found('links', 'worth-fixing', 'link-broken-later', { page, at: broken.during.from }, place, write)];
    const through = stretches.find(
      (stretch) => stretch.value.kind === 'outside' || (stretch.value.kind === 'address' && !stretch.value.isDirect),
    );
    if (!through) return [];
    const at = through === first ? null : through.during.from;
    return [found('links', 'worth-fixing', 'link-redirected', { page, at }, place, write)];
  });
