import { pagesInMenus } from '@domatium/core/frame';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { waysOver, type Held, type RegisterWays } from '@domatium/core/register';
import { navOf, type LegalPage, type Part } from '@domatium/core/stock';
import { EMPTY_DOCUMENT, pageReferencesOf, type Block } from '@domatium/core/document';
import { DAY, endOf, type Instant } from '@domatium/core/time';
import { menusAt } from '../../heart/publishing/index.js';
import { stockOf, type ShelvedItem } from '../../heart/stock/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** How far back it is known what led where. */
const KEPT = 400 * DAY;
const PARTS: readonly string[] = ['header', 'footer', 'band'];
const isMenuBlock = ({ type }: Block) => type === 'menu' || type === 'linkColumns';
const pagesIn = (blocks: readonly Block[]) => pageReferencesOf({ ...EMPTY_DOCUMENT, blocks });

/** Pages that are in a menu, and those that anything leads to that is live, over time as it was and is planned. */
export async function waysOf(db: Db, portfolioId: PortfolioId, now: Instant): Promise<RegisterWays> {
  const since = (now - KEPT) as Instant;
  const all = await stockOf(db, portfolioId);
  const stock = all.map((item): ShelvedItem => ({
    ...item,
    periods: item.periods.filter(({ during }) => endOf(during) > since),
  }));
  const inMenu = [...inMenusOfSites(stock, since)];
  const linked: Held[] = [];
  for (const { kind, periods } of stock)
    for (const { content, during } of periods) {
      const add = (held: Held[], ids: readonly PageId[]) => held.push(...ids.map((id) => ({ id, during })));
      // Menus by hand within headers and footers.
      if (kind === 'header' || kind === 'footer') add(inMenu, pagesIn((content as Part).blocks.filter(isMenuBlock)));
      if (PARTS.includes(kind)) add(linked, pagesIn((content as Part).blocks));
      if (kind === 'piece') add(linked, pagesIn(content as readonly Block[]));
      if (kind === 'legal')
        add(
          linked,
          (content as readonly LegalPage[]).flatMap(({ pageId }) => pageId ?? []),
        );
    }
  const rows = await rowsOf<{ id: PageId; from_at: Instant; until_at: Instant | null }>(
    db,
    `SELECT id, lower(one) AS from_at, upper(one) AS until_at FROM (
      SELECT rr.page_id AS id, unnest(range_agg(p.during)) AS one
      FROM revision_reference rr JOIN period p ON p.revision_id = rr.revision_id
      WHERE p.portfolio_id = ? AND p.page_id <> rr.page_id AND p.during && tstzrange(?, NULL) GROUP BY rr.page_id) stretches`,
    [portfolioId, dateOf(since)],
  );
  for (const { id, from_at: from, until_at: until } of rows) linked.push({ id, during: { from, until } });
  return { since, inMenu: waysOver(inMenu, since), linked: waysOver([...inMenu, ...linked], since) };
}

function* inMenusOfSites(stock: readonly ShelvedItem[], since: Instant): Iterable<Held> {
  const sites = new Set(stock.flatMap(({ kind, siteId }) => (kind === 'menu' && siteId !== null ? [siteId] : [])));
  for (const siteId of sites) {
    const items = stock.filter(
      (item) => (item.kind === 'menu' || item.kind === 'legal') && (item.siteId ?? siteId) === siteId,
    );
    const edges = items.flatMap(({ periods }) =>
      periods.flatMap(({ during: { from, until } }) => [from, until ?? from]),
    );
    const moments = [...new Set([since, ...edges])].filter((at) => at >= since).sort((a, b) => a - b);
    for (const [n, from] of moments.entries()) {
      // Whether a page is live is asked elsewhere: here all of them count.
      const nav = navOf({ ...menusAt(items, siteId, from), home: null }, () => ({ title: '', href: '' }));
      const during = { from, until: moments[n + 1] ?? null };
      if (nav) for (const id of pagesInMenus(nav)) yield { id, during };
    }
  }
}
