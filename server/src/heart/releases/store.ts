import type { AnswerInput, Changes } from '@domatium/contracts';
import type { HostId, PageId, PagePlan, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { StockPeriod } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import type { SummaryPart } from '@domatium/core/words';
import * as stock from '../stock/index.js';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface ReleaseRow {
  readonly id: ReleaseId;
  readonly at: Instant;
  readonly act: string;
  readonly summary: string;
  readonly parts: readonly SummaryPart[] | null;
  readonly account_name: string | null;
  readonly undoes_id: ReleaseId | null;
  readonly published_at: Instant | null;
  readonly out_at: Instant | null;
  readonly failure: string | null;
}

const RELEASE = `SELECT r.id, r.at, r.act, r.summary, r.parts, a.name AS account_name, r.undoes_id, r.published_at, r.out_at, r.failure
  FROM release r LEFT JOIN account a ON a.id = r.account_id`;

export async function releaseById(db: Db, portfolioId: PortfolioId, id: number): Promise<ReleaseRow | null> {
  const [row] = await rowsOf<ReleaseRow>(db, `${RELEASE} WHERE r.portfolio_id = ? AND r.id = ?`, [portfolioId, id]);
  return row ?? null;
}

/** Releases by identity; those of other portfolios are left out. */
export async function releasesById(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly ReleaseId[],
): Promise<Map<ReleaseId, ReleaseRow>> {
  if (!ids.length) return new Map();
  const rows = await rowsOf<ReleaseRow>(db, `${RELEASE} WHERE r.portfolio_id = ? AND r.id = ANY(?)`, [
    portfolioId,
    ids,
  ]);
  return new Map(rows.map((row) => [row.id, row]));
}

export async function releaseByKey(db: Db, portfolioId: PortfolioId, key: string): Promise<ReleaseRow | null> {
  const [row] = await rowsOf<ReleaseRow>(db, `${RELEASE} WHERE r.portfolio_id = ? AND r.idempotency_key = ?`, [
    portfolioId,
    key,
  ]);
  return row ?? null;
}

/** Undos of any of these releases, directly or of such an undo. */
export function undosOf(db: Db, ids: readonly ReleaseId[]): Promise<{ id: ReleaseId; undoes_id: ReleaseId }[]> {
  return rowsOf(
    db,
    `WITH RECURSIVE chain AS (SELECT id, undoes_id FROM release WHERE undoes_id = ANY(?)
    UNION SELECT r.id, r.undoes_id FROM release r JOIN chain c ON r.undoes_id = c.id) SELECT id, undoes_id FROM chain`,
    [ids],
  );
}

export interface ReleasedPage {
  readonly page_id: PageId;
  readonly before: PagePlan;
  readonly after: PagePlan;
}

export interface ReleasedItem {
  readonly item_id: number;
  readonly before: readonly StockPeriod[];
  readonly after: readonly StockPeriod[];
}

/** What a release made of things of the stock. */
export function itemsOfRelease(db: Db, id: ReleaseId): Promise<ReleasedItem[]> {
  return rowsOf(db, 'SELECT item_id, before, after FROM release_stock WHERE release_id = ? ORDER BY item_id', [id]);
}

export async function insertReleaseItems(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  items: readonly ReleasedItem[],
): Promise<void> {
  await insertRows(
    trx,
    'release_stock',
    items.map(({ item_id, before, after }) => ({
      release_id: releaseId,
      portfolio_id: portfolioId,
      item_id,
      before,
      after,
    })),
  );
}

/** Releases that changed a page, or a thing of the stock, newest first. */
export function releasesOf(
  db: Db,
  portfolioId: PortfolioId,
  { kind, id }: { readonly kind: 'page' | 'item'; readonly id: number },
): Promise<ReleaseRow[]> {
  const [table, column] = kind === 'page' ? ['release_page', 'page_id'] : ['release_stock', 'item_id'];
  return rowsOf(
    db,
    `${RELEASE} JOIN ${table} t ON t.release_id = r.id WHERE r.portfolio_id = ? AND t.${column} = ? ORDER BY r.id DESC LIMIT 200`,
    [portfolioId, id],
  );
}

export function pagesOfReleases(
  db: Db,
  ids: readonly ReleaseId[],
): Promise<(ReleasedPage & { release_id: ReleaseId })[]> {
  return rowsOf(
    db,
    'SELECT release_id, page_id, before, after FROM release_page WHERE release_id = ANY(?) ORDER BY release_id',
    [ids],
  );
}

export interface NewRelease {
  readonly portfolioId: PortfolioId;
  readonly at: Instant;
  readonly act: string;
  readonly accountId: number | null;
  readonly key: string | null;
  readonly undoes: ReleaseId | null;
  readonly summary: string;
  readonly parts: readonly SummaryPart[];
}

export async function insertRelease(trx: Db, release: NewRelease): Promise<ReleaseId> {
  const [row] = (await trx('release')
    .insert({
      portfolio_id: release.portfolioId,
      at: dateOf(release.at),
      act: release.act,
      account_id: release.accountId,
      idempotency_key: release.key,
      undoes_id: release.undoes,
      summary: release.summary,
      parts: JSON.stringify(release.parts),
    })
    .returning('id')) as { id: ReleaseId }[];
  if (!row) throw new Error('A release was not written');
  return row.id;
}

export async function insertReleasePages(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  pages: readonly { pageId: PageId; change: unknown; before: PagePlan; after: PagePlan }[],
): Promise<void> {
  await insertRows(
    trx,
    'release_page',
    pages.map(({ pageId, change, before, after }) => ({
      release_id: releaseId,
      portfolio_id: portfolioId,
      page_id: pageId,
      change,
      before,
      after,
    })),
  );
}

export async function noteReleaseOnHosts(trx: Db, hostIds: readonly HostId[], at: Instant): Promise<void> {
  await trx('host')
    .whereIn('id', [...hostIds])
    .update({ last_release_at: dateOf(at) });
}

/** The pages whose revisions, on the air from `from` on, link to one of these pages. */
export function referrersOf(
  db: Db,
  pageIds: readonly PageId[],
  from: Instant,
): Promise<{ referrer: PageId; target: PageId }[]> {
  return rowsOf(
    db,
    `SELECT DISTINCT p.page_id AS referrer, rr.page_id AS target FROM revision_reference rr JOIN period p ON p.revision_id = rr.revision_id
    WHERE rr.page_id = ANY(?) AND (p.until_at IS NULL OR p.until_at > ?)`,
    [pageIds, dateOf(from)],
  );
}

const leadsOutside = (answer: AnswerInput | null) => answer?.kind === 'redirect' && answer.target.kind === 'outside';

/**
 * The sites of these changes that want approvals: of all that shows visitors something else or sends them somewhere
 * else. That a page or a piece comes off waits for nobody.
 */
export async function approvalsWanted(
  db: Db,
  portfolioId: PortfolioId,
  { changes, stock: things = [] }: Changes,
  now: Instant,
): Promise<{ id: number; name: string; approvals: number }[]> {
  const lasting = changes.filter((change) => change.act !== 'take-off' || leadsOutside(change.afterwards));
  const targets = lasting.flatMap((change) => (change.act === 'move' ? [change.siteId] : []));
  const put = things.flatMap(({ act, itemId }) => (act === 'put' ? [itemId] : []));
  const showing: number[] = [];
  for (const item of await stock.itemsById(db, portfolioId, put))
    for (const { id } of await stock.approvalsWanted(db, portfolioId, item, now)) showing.push(id);
  targets.push(...showing);
  return rowsOf(
    db,
    `SELECT id, name, approvals FROM site WHERE portfolio_id = ? AND approvals > 0 AND (id = ANY(?) OR id IN (
      SELECT site_id FROM placement WHERE page_id = ANY(?) AND (until_at IS NULL OR until_at > ?))) ORDER BY name`,
    [portfolioId, targets, lasting.map(({ pageId }) => pageId), dateOf(now)],
  );
}

export async function namesOfPages(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly PageId[],
): Promise<Map<PageId, string>> {
  const rows = await rowsOf<{ id: PageId; name: string }>(
    db,
    'SELECT id, name FROM page WHERE portfolio_id = ? AND id = ANY(?)',
    [portfolioId, ids],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export async function zoneOf(db: Db, portfolioId: PortfolioId): Promise<string> {
  const [row] = await rowsOf<{ zone: string }>(db, 'SELECT zone FROM portfolio WHERE id = ?', [portfolioId]);
  return row?.zone ?? 'UTC';
}

/** Who decided a period, for the words of a conflict. */
export async function deciderOf(db: Db, periodId: number): Promise<{ name: string | null; at: Instant } | null> {
  const [row] = await rowsOf<{ name: string | null; at: Instant }>(
    db,
    'SELECT a.name, r.at FROM period p JOIN release r ON r.id = p.release_id LEFT JOIN account a ON a.id = r.account_id WHERE p.id = ?',
    [periodId],
  );
  return row ?? null;
}

export async function deletedAmong(db: Db, pageIds: readonly PageId[]): Promise<string[]> {
  const rows = await rowsOf<{ name: string }>(
    db,
    'SELECT name FROM page WHERE id = ANY(?) AND deleted_at IS NOT NULL ORDER BY id',
    [pageIds],
  );
  return rows.map(({ name }) => name);
}
