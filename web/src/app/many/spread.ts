import type { RegisterRow } from '@domatium/core/register';
import { say } from '@domatium/core/words/many';

/** How many pages on how many hosts, in words. */
export function spreadWords(pages: readonly Pick<RegisterRow, 'host'>[]): string {
  const hosts = new Set(pages.map(({ host }) => host)).size;
  const count = pages.length;
  return say.onWithCount(
    count.toLocaleString('en-GB'),
    count === 1 ? say.page : say.pagesSmall,
    hosts === 1 ? say.oneHost : say.hosts(hosts.toLocaleString('en-GB')),
  );
}
