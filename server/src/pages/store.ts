import type { PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';

export interface PageRow {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly version: number;
  readonly campaign: string | null;
  readonly owner: string | null;
}

export async function pageById(db: Db, portfolioId: PortfolioId, id: number): Promise<PageRow | null> {
  const [row] = await rowsOf<PageRow>(
    db,
    `SELECT p.id, p.name, p.role, p.version, c.name AS campaign, o.name AS owner FROM page p
    LEFT JOIN campaign c ON c.id = p.campaign_id LEFT JOIN account o ON o.id = p.owner_id WHERE p.portfolio_id = ? AND p.id = ?`,
    [portfolioId, id],
  );
  return row ?? null;
}

export interface NewPage {
  readonly name: string;
  readonly role: string;
  readonly document: PageDocument;
  readonly siteId: number;
  readonly path: string;
  readonly placementId: number;
  readonly campaignId?: number | null;
  readonly ownerId?: number | null;
}

/** Writes a page with its draft and its first placement, from `now` on. */
export async function insertPage(
  trx: Db,
  portfolioId: PortfolioId,
  page: NewPage,
  now: Instant,
  accountId: number | null,
): Promise<PageId> {
  const [row] = (await trx('page')
    .insert({
      portfolio_id: portfolioId,
      name: page.name,
      role: page.role,
      campaign_id: page.campaignId ?? null,
      owner_id: page.ownerId ?? accountId,
      created_at: dateOf(now),
      changed_at: dateOf(now),
      changed_by: accountId,
    })
    .returning('id')) as { id: PageId }[];
  if (!row) throw new Error('A page was not written');
  await trx('draft').insert({
    page_id: row.id,
    portfolio_id: portfolioId,
    document: JSON.stringify(page.document),
    changed_at: dateOf(now),
    changed_by: accountId,
  });
  await trx('placement').insert({
    id: page.placementId,
    portfolio_id: portfolioId,
    page_id: row.id,
    site_id: page.siteId,
    path: page.path,
    from_at: dateOf(now),
  });
  return row.id;
}

export async function siteExists(db: Db, portfolioId: PortfolioId, siteId: number): Promise<boolean> {
  return (await rowsOf(db, 'SELECT 1 FROM site WHERE portfolio_id = ? AND id = ?', [portfolioId, siteId])).length > 0;
}

/** Renames a page where it still has the version that was seen; gives the new version, or `null`. */
export async function renamePage(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
  name: string,
  version: number,
  now: Instant,
  accountId: number | null,
): Promise<number | null> {
  const [row] = await rowsOf<{ version: number }>(
    trx,
    'UPDATE page SET name = ?, version = version + 1, changed_at = ?, changed_by = ? WHERE portfolio_id = ? AND id = ? AND version = ? RETURNING version',
    [name, dateOf(now), accountId, portfolioId, id, version],
  );
  return row?.version ?? null;
}

/** Pages that lie at a path of a site now, live or not: two pages may lie at one address as long as they take turns. */
export function pagesLyingAt(
  db: Db,
  hostId: number,
  path: string,
  now: Instant,
): Promise<{ id: PageId; name: string }[]> {
  return rowsOf(
    db,
    `SELECT DISTINCT p.id, p.name FROM page p JOIN placement l ON l.page_id = p.id JOIN site_address a ON a.site_id = l.site_id AND a.is_primary
    WHERE a.host_id = ? AND (CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END) = ? AND l.during @> ?::timestamptz`,
    [hostId, path, dateOf(now)],
  );
}
