import { followedOver } from '../routing/index.js';
import { endOf, type Instant } from '../time/index.js';
import { found, type CheckInput, type Finding } from './finding.js';

/**
 * A page that is to be shown instead and is not live for all of the time, or names another one itself: search engines are
 * led to nothing, or in a circle. What is rendered then is the page's own address.
 */
export function canonical({
  document,
  during,
  planned,
  pageId,
  nameOf,
  namesAnother = () => [],
  write,
}: CheckInput): Finding[] {
  const { canonical: target } = document.metadata;
  if (target?.kind !== 'page' || target.pageId === pageId) return [];
  const page = nameOf(target.pageId);
  const off = followedOver(planned, target.pageId, during).find(
    ({ value }) => value.kind !== 'address' || !value.isDirect,
  )?.during.from;
  const naming = namesAnother(target.pageId).find((one) => one.from < endOf(during) && endOf(one) > during.from);
  const chain = naming && (Math.max(naming.from, during.from) as Instant);
  return [['canonical-off', off] as const, ['canonical-chain', chain] as const].flatMap(([code, at]) => {
    if (at === undefined) return [];
    const params = { page, at: at === during.from ? null : at };
    return [found('canonical', 'worth-fixing', code, params, { metadata: 'canonical' }, write)];
  });
}
