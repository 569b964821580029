import type { Changes, ReleasePreview } from '@domatium/contracts';
import { canonical, type PageId, type PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { SummaryPart } from '@domatium/core/words';
import { sha256 } from '@domatium/storage';
import { rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { summaryOfRow, writePlan } from './fault-words.js';
import type { Judged } from './judge.js';

/** What a release rests on, in short: the plans of what it changes and the drafts it takes. Another text says that something of it is another. */
export function basisOf({ changes, stock = [] }: Changes, { before, drafts, things }: Judged): string {
  const plans = changes.map(({ pageId, act }) => [
    before.plans.get(pageId as PageId) ?? null,
    act === 'release' ? drafts.get(pageId as PageId)?.version : null,
  ]);
  const items = stock.map(({ itemId, act }) => [
    things.before.get(itemId) ?? [],
    act === 'put' ? things.items.get(itemId)?.draft_version : null,
  ]);
  return sha256(canonical([plans, items])).slice(0, 24);
}

interface LatestRow {
  readonly at: Instant;
  readonly by: string | null;
  readonly summary: string | null;
  readonly parts: SummaryPart[] | null;
}

/** The last thing that anybody else did to what a release rests on; `null` where nobody did. */
export async function latestByOthers(
  db: Db,
  { account, now }: Pick<Context, 'account' | 'now'>,
  portfolioId: PortfolioId,
  { changes, stock = [] }: Changes,
  zone: string,
): Promise<ReleasePreview['latest']> {
  const pages = changes.map(({ pageId }) => pageId);
  const released = changes.flatMap(({ act, pageId }) => (act === 'release' ? [pageId] : []));
  const items = stock.map(({ itemId }) => itemId);
  const put = stock.flatMap(({ act, itemId }) => (act === 'put' ? [itemId] : []));
  const [row] = await rowsOf<LatestRow>(
    db,
    `WITH latest AS (
      (SELECT r.at, r.account_id, r.summary, r.parts FROM release r WHERE r.portfolio_id = ? AND r.account_id IS DISTINCT FROM ?
        AND (r.id IN (SELECT release_id FROM release_page WHERE page_id = ANY(?)) OR r.id IN (SELECT release_id FROM release_stock WHERE item_id = ANY(?)))
        ORDER BY r.id DESC LIMIT 1)
      UNION ALL (SELECT changed_at, changed_by, NULL, NULL FROM draft WHERE page_id = ANY(?) AND changed_by IS DISTINCT FROM ? ORDER BY changed_at DESC LIMIT 1)
      UNION ALL (SELECT changed_at, changed_by, NULL, NULL FROM stock_item WHERE id = ANY(?) AND changed_by IS DISTINCT FROM ? ORDER BY changed_at DESC LIMIT 1))
    SELECT l.at, a.name AS by, l.summary, l.parts FROM latest l LEFT JOIN account a ON a.id = l.account_id ORDER BY l.at DESC LIMIT 1`,
    [portfolioId, account, pages, items, released, account, put, account],
  );
  if (!row) return null;
  const { at, by, summary, parts } = row;
  return { at, by, summary: summary === null ? null : summaryOfRow({ parts, summary }, writePlan(zone, now)) };
}
