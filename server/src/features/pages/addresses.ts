import type { PageAddressView } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import { isSamePlace, type AddressKey, type HostId, type PageId, type PortfolioId } from '@domatium/core/plan';
import { resolutionWords, resolvedOver, type Resolution, type RouteTable } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/answers/pages';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import { askedBesidesPages } from '../visits/index.js';

/** Addresses that give an answer from a moment on because of a page: what its ends and moves left, and what leads to it. */
export function otherAddresses(db: Db, portfolioId: PortfolioId, pageId: PageId, at: Instant): Promise<AddressKey[]> {
  return rowsOf<{ hostId: HostId; path: string }>(
    db,
    `SELECT DISTINCT a.host_id AS "hostId", a.path FROM claim c JOIN address a ON a.id = c.address_id
    WHERE c.portfolio_id = ? AND c.layer = 'after' AND (c.page_id = ? OR c.target_page_id = ?) AND (c.until_at IS NULL OR c.until_at > ?)
    ORDER BY a.path, a.host_id`,
    [portfolioId, pageId, pageId, dateOf(at)],
  );
}

/** What each of them gives at a moment and next, and how often it was asked for. */
export async function addressViews(
  db: Db,
  portfolioId: PortfolioId,
  routes: RouteTable,
  addresses: readonly AddressKey[],
  hostOf: (id: HostId) => string,
  here: AddressKey,
  nameOf: (id: PageId) => string,
  { zone, at }: { readonly zone: string; readonly at: Instant },
): Promise<PageAddressView[]> {
  const others = addresses.filter((one) => !isSamePlace(one, here));
  const asked = await askedBesidesPages(
    db,
    portfolioId,
    others.map(({ hostId, path }) => ({ host: hostOf(hostId), path })),
    zone,
    at,
    30,
  );
  const isHere = (answer: Resolution) =>
    answer.kind === 'redirect' &&
    answer.to.kind === 'address' &&
    answer.to.host === hostOf(here.hostId) &&
    answer.to.path === here.path;
  const wordsOf = (answer: Resolution) =>
    isHere(answer) && answer.kind === 'redirect'
      ? say.redirectsHere(answer.status)
      : resolutionWords(answer, { page: nameOf, revision: () => '' });
  return others.map(({ hostId, path }): PageAddressView => {
    const address = { host: hostOf(hostId), path };
    const [now, next] = resolvedOver(routes, address, { from: at, until: null });
    return {
      host: address.host,
      path: readablePath(path),
      words: now ? wordsOf(now.value) : '',
      isHere: now ? isHere(now.value) : false,
      next: next ? { at: next.during.from, words: wordsOf(next.value) } : null,
      asked: asked.get(`${address.host} ${path}`) ?? 0,
    };
  });
}
