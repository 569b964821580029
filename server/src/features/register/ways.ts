import { pagesInMenus } from '@domatium/core/frame';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { distancesOf, type RegisterLists } from '@domatium/core/register';
import { navOf, type Part } from '@domatium/core/stock';
import { pageReferencesOf, EMPTY_DOCUMENT } from '@domatium/core/document';
import { endOf, type Instant } from '@domatium/core/time';
import { menusAt, pagesLedTo } from '../../heart/publishing/index.js';
import { stockOf, type ShelvedItem } from '../../heart/stock/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

const isMenuBlock = ({ type }: { readonly type: string }) => type === 'menu';

/** Pages that are in a menu now or as planned, and those that anything leads to that is live or will be. */
export async function waysOf(db: Db, portfolioId: PortfolioId, now: Instant): Promise<RegisterLists['ways']> {
  const all = await stockOf(db, portfolioId);
  const stock = all.map((item): ShelvedItem => ({
    ...item,
    periods: item.periods.filter(({ during }) => endOf(during) > now),
  }));
  const inMenu = new Set<number>();
  const sites = new Set(stock.flatMap(({ kind, siteId }) => (kind === 'menu' && siteId !== null ? [siteId] : [])));
  for (const siteId of sites) {
    const items = stock.filter(
      (item) => (item.kind === 'menu' || item.kind === 'legal') && (item.siteId ?? siteId) === siteId,
    );
    const moments = new Set([now, ...items.flatMap(({ periods }) => periods.map(({ during }) => during.from))]);
    for (const at of moments) {
      if (at < now) continue;
      // Whether a page is live is asked elsewhere: here all of them count.
      const nav = navOf({ ...menusAt(items, siteId, at), home: null }, () => ({ title: '', href: '' }));
      if (nav) for (const id of pagesInMenus(nav)) inMenu.add(id);
    }
  }
  // Menus by hand within headers and footers.
  for (const { kind, periods } of stock)
    if (kind === 'header' || kind === 'footer')
      for (const { content } of periods) {
        const blocks = (content as Part).blocks.filter(isMenuBlock);
        for (const id of pageReferencesOf({ ...EMPTY_DOCUMENT, blocks })) inMenu.add(id);
      }
  const { byAll } = pagesLedTo(stock);
  const rows = await rowsOf<{ id: PageId }>(
    db,
    `SELECT DISTINCT rr.page_id AS id FROM revision_reference rr JOIN period p ON p.revision_id = rr.revision_id
    WHERE p.portfolio_id = ? AND p.page_id <> rr.page_id AND (p.until_at IS NULL OR p.until_at > ?)`,
    [portfolioId, dateOf(now)],
  );
  const pieces = stock
    .filter(({ kind }) => kind === 'piece')
    .flatMap(({ periods }) => periods.flatMap(({ content }) => content as Part['blocks']));
  const linked = new Set<number>([
    ...inMenu,
    ...byAll,
    ...rows.map(({ id }) => id),
    ...pageReferencesOf({ ...EMPTY_DOCUMENT, blocks: pieces }),
  ]);
  return { inMenu: distancesOf(inMenu), linked: distancesOf(linked) };
}
