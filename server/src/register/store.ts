import type { RegisterSite } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';

/** Sites with the address that is primary at an instant. */
export function sitesAt(db: Db, portfolioId: PortfolioId, now: Instant): Promise<RegisterSite[]> {
  return rowsOf(
    db,
    `SELECT s.id, s.name, s.brand, h.name AS host, a.base_path AS "basePath", d.name AS domain, s.theme FROM site s
    JOIN site_address a ON a.site_id = s.id AND a.is_primary AND a.during @> ?::timestamptz JOIN host h ON h.id = a.host_id LEFT JOIN domain d ON d.id = h.domain_id
    WHERE s.portfolio_id = ? ORDER BY s.id`,
    [dateOf(now), portfolioId],
  );
}

export interface PageRow {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly version: number;
  readonly campaign_id: number | null;
  readonly owner: string | null;
  readonly changed_at: Instant;
  readonly changed_by: string | null;
  readonly site_id: number;
  readonly path: string;
}

/** Pages with the placement that holds at an instant. */
export function pagesAt(db: Db, portfolioId: PortfolioId, now: Instant): Promise<PageRow[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.role, p.version, p.campaign_id, o.name AS owner, p.changed_at, c.name AS changed_by, l.site_id, l.path
    FROM page p JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    LEFT JOIN account o ON o.id = p.owner_id LEFT JOIN account c ON c.id = p.changed_by WHERE p.portfolio_id = ? ORDER BY p.id`,
    [dateOf(now), portfolioId],
  );
}

export function periodsOf(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ page_id: PageId; from: Instant; until: Instant | null; revision: number }[]> {
  return rowsOf(
    db,
    `SELECT p.page_id, p.from_at AS "from", p.until_at AS "until", r.number AS revision FROM period p JOIN revision r ON r.id = p.revision_id
    WHERE p.portfolio_id = ? ORDER BY p.page_id, p.from_at`,
    [portfolioId],
  );
}

/** Pages whose last period is followed by a redirect. */
export async function pagesRedirectingAfter(db: Db, portfolioId: PortfolioId): Promise<Set<PageId>> {
  const rows = await rowsOf<{ page_id: PageId }>(
    db,
    `SELECT DISTINCT a.page_id FROM after_answer a
    JOIN (SELECT page_id, max(coalesce(until_at, 'infinity')) AS last FROM period WHERE portfolio_id = ? GROUP BY page_id) e ON e.page_id = a.page_id AND e.last = a.from_at
    WHERE a.answer = 'redirect' AND a.kind = 'afterwards'`,
    [portfolioId],
  );
  return new Set(rows.map(({ page_id }) => page_id));
}

export function campaignsOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(db, 'SELECT id, name FROM campaign WHERE portfolio_id = ? ORDER BY name', [portfolioId]);
}

export function waitingReleases(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ id: number; at: number; summary: string; failure: string | null }[]> {
  return rowsOf(
    db,
    'SELECT id, at, summary, failure FROM release WHERE portfolio_id = ? AND out_at IS NULL ORDER BY id DESC LIMIT 20',
    [portfolioId],
  );
}

export async function releaseInstants(db: Db, portfolioId: PortfolioId, since: Instant): Promise<number[]> {
  return (
    await rowsOf<{ at: number }>(db, 'SELECT at FROM release WHERE portfolio_id = ? AND at >= ? ORDER BY at', [
      portfolioId,
      dateOf(since),
    ])
  ).map(({ at }) => at);
}
