import { linksOf } from '../document/index.js';
import { followedOver } from '../routing/index.js';
import type { CheckInput, Finding } from './finding.js';

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
    const name = nameOf(value.pageId);
    const place = { blockId, field };
    const isNowhere = (kind: string) => kind === 'nothing' || kind === 'gone' || kind === 'loop';
    const [first, ...rest] = stretches;
    if (first && isNowhere(first.value.kind))
      return [
        {
          check: 'links',
          severity: isLive ? 'worth-fixing' : 'blocks',
          message: `The link to ${name} is broken${isLive ? '' : ' when this goes live'}: that page is off.`,
          mend: 'Choose another page, or release that one first.',
          place,
        },
      ];
    const broken = rest.find((stretch) => isNowhere(stretch.value.kind));
    if (broken)
      return [
        {
          check: 'links',
          severity: 'worth-fixing',
          message: `The link to ${name} is broken from ${write(broken.during.from)}.`,
          mend: 'Give that page an afterwards, or choose another target.',
          place,
        },
      ];
    const through = stretches.find(
      (stretch) => stretch.value.kind === 'outside' || (stretch.value.kind === 'address' && !stretch.value.isDirect),
    );
    if (through) {
      const from = through === first ? '' : ` from ${write(through.during.from)}`;
      return [
        {
          check: 'links',
          severity: 'worth-fixing',
          message: `The link to ${name} leads through a redirect${from}.`,
          mend: 'Choose the page it leads to.',
          place,
        },
      ];
    }
    return [];
  });
