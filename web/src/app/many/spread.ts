import type { RegisterRow } from '@domatium/core/register';

/** How many pages on how many hosts, in words. */
export function spreadWords(pages: readonly Pick<RegisterRow, 'host'>[]): string {
  const hosts = new Set(pages.map(({ host }) => host)).size;
  const count = pages.length;
  return `${count.toLocaleString('en-GB')} ${count === 1 ? 'page' : 'pages'} on ${hosts === 1 ? '1 host' : `${hosts.toLocaleString('en-GB')} hosts`}`;
}
