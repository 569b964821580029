import { found, type Finding } from '@domatium/core/checks';
import type { PageId, PagePlan, PortfolioId } from '@domatium/core/plan';
import { legalFindings, stockAt, type LegalPage } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import type { WriteInstant } from '@domatium/core/words';
import { rowsOf, type Db } from '../../platform/database/context.js';
import * as stock from '../stock/index.js';

type Plans = ReadonlyMap<PageId, PagePlan>;

/** Legal pages that sites lose, or lose sooner, when changed plans hold. */
export async function legalLost(
  db: Db,
  portfolioId: PortfolioId,
  before: Plans,
  after: Plans,
  changed: readonly PageId[],
  { instant, write }: { readonly instant: Instant; readonly write: WriteInstant },
): Promise<(Finding & { readonly pageId: number })[]> {
  if (!changed.length) return [];
  const items = await rowsOf<{ id: number; site: string | null }>(
    db,
    "SELECT i.id, s.name AS site FROM stock_item i LEFT JOIN site s ON s.id = i.site_id WHERE i.portfolio_id = ? AND i.kind = 'legal'",
    [portfolioId],
  );
  if (!items.length) return [];
  const shelved = await stock.stockOf(
    db,
    portfolioId,
    items.map(({ id }) => id),
  );
  const held = shelved.map(({ id, siteId, periods }) => ({
    siteId,
    site: items.find((one) => one.id === id)?.site ?? null,
    pages: (stockAt(periods, instant)?.content ?? []) as readonly LegalPage[],
  }));
  const wanted = held.find(({ siteId }) => siteId === null)?.pages ?? [];
  const whenLost = (plans: Plans, page: LegalPage): number => {
    const periods = page.pageId === null ? null : (plans.get(page.pageId)?.periods ?? []);
    const [lost] = legalFindings([page], () => periods?.map(({ during }) => during) ?? null, instant);
    return lost ? (lost.from ?? instant) : Infinity;
  };
  return held.flatMap(({ siteId, site, pages }) =>
    pages.flatMap((page) => {
      const { pageId, key } = page;
      const kind = wanted.find((one) => one.key === key);
      // What the portfolio names itself, or wants no more, no site loses.
      if (pageId === null || !changed.includes(pageId) || !kind || (siteId !== null && kind.pageId !== null)) return [];
      const [was, becomes] = [whenLost(before, page), whenLost(after, page)];
      if (becomes >= was) return [];
      const params = { kind: kind.name || key, site, at: becomes > instant ? (becomes as Instant) : null };
      return [{ ...found('legal', 'worth-fixing', 'legal-lost', params, null, write), pageId }];
    }),
  );
}
