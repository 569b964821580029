import type { PageId, PagePlan, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

/** Of these pages those in the bin, with the plan each had before it went there; `null` for what was deleted for ever. */
export async function binnedPlans(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<Map<PageId, PagePlan | null>> {
  const rows = await rowsOf<{ page_id: PageId; before: PagePlan; deleted_at: Instant | null }>(
    db,
    `SELECT b.page_id, rp.before, p.deleted_at FROM bin_stay b JOIN page p ON p.id = b.page_id
    JOIN release_page rp ON rp.release_id = b.opened_by AND rp.page_id = b.page_id
    WHERE b.portfolio_id = ? AND b.until_at IS NULL AND b.page_id = ANY(?)`,
    [portfolioId, pageIds],
  );
  return new Map(rows.map(({ page_id, before, deleted_at }) => [page_id, deleted_at === null ? before : null]));
}

export async function openStays(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<void> {
  await insertRows(
    trx,
    'bin_stay',
    pageIds.map((page_id) => ({ portfolio_id: portfolioId, page_id, from_at: dateOf(at), opened_by: releaseId })),
  );
}

export async function closeStays(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<void> {
  await rowsOf(
    trx,
    'UPDATE bin_stay SET until_at = ?, closed_by = ? WHERE portfolio_id = ? AND page_id = ANY(?) AND until_at IS NULL',
    [dateOf(at), releaseId, portfolioId, pageIds],
  );
}

/** The pages that a release put into the bin, and those it took out of it. */
export async function binnedBy(db: Db, releaseId: ReleaseId): Promise<{ put: PageId[]; took: PageId[] }> {
  const rows = await rowsOf<{ page_id: PageId; opened_by: ReleaseId }>(
    db,
    'SELECT page_id, opened_by FROM bin_stay WHERE opened_by = ? OR closed_by = ?',
    [releaseId, releaseId],
  );
  const isPut = ({ opened_by }: { opened_by: ReleaseId }) => opened_by === releaseId;
  return {
    put: rows.filter(isPut).map(({ page_id }) => page_id),
    took: rows.filter((row) => !isPut(row)).map(({ page_id }) => page_id),
  };
}
