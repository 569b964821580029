import type { HostId, PageId, PlanRowId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import type { EdgeQuestion } from '@domatium/storage';

export function portfolios(db: Db): Promise<{ id: PortfolioId; name: string }[]> {
  return rowsOf(db, 'SELECT id, name FROM portfolio ORDER BY id');
}

/** Portfolios that were not verified since an instant. */
export function unverifiedSince(db: Db, since: Instant): Promise<{ id: PortfolioId }[]> {
  return rowsOf(
    db,
    'SELECT p.id FROM portfolio p WHERE NOT EXISTS (SELECT FROM verification v WHERE v.portfolio_id = p.id AND v.at > ?) ORDER BY p.id',
    [dateOf(since)],
  );
}

export async function pageIdsOf(db: Db, portfolioId: PortfolioId): Promise<PageId[]> {
  const rows = await rowsOf<{ id: PageId }>(db, 'SELECT id FROM page WHERE portfolio_id = ? ORDER BY id', [
    portfolioId,
  ]);
  return rows.map(({ id }) => id);
}

interface PlaceRow {
  readonly host_id: HostId;
  readonly path: string;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}

export interface RouteRow extends PlaceRow {
  readonly layer: 'page' | 'after';
  readonly answer: 'page' | 'redirect' | 'gone' | 'not-found';
  readonly page_id: PageId | null;
  readonly revision_id: number | null;
  readonly claim_id: PlanRowId;
  readonly artifact: string | null;
  readonly target_page_id: PageId | null;
  readonly target_url: string | null;
  readonly status: number | null;
}

export function claimsOfPortfolio(db: Db, portfolioId: PortfolioId): Promise<Omit<RouteRow, 'artifact'>[]> {
  return rowsOf(
    db,
    `SELECT a.host_id, a.path, c.layer, coalesce(c.answer, 'page') AS answer, c.page_id, c.revision_id, c.source_id AS claim_id, c.from_at, c.until_at,
      c.target_page_id, c.target_url, c.status FROM claim c JOIN address a ON a.id = c.address_id WHERE c.portfolio_id = ?`,
    [portfolioId],
  );
}

export function routesOfPortfolio(db: Db, portfolioId: PortfolioId): Promise<RouteRow[]> {
  return rowsOf(
    db,
    `SELECT host_id, path, layer, answer, page_id, revision_id, claim_id, artifact, from_at, until_at, target_page_id, target_url, status
    FROM route WHERE portfolio_id = ? ORDER BY host_id, path, layer, from_at`,
    [portfolioId],
  );
}

export function placesOfPortfolio(db: Db, portfolioId: PortfolioId): Promise<(PlaceRow & { page_id: PageId })[]> {
  return rowsOf(
    db,
    'SELECT r.page_id, r.host_id, r.path, r.from_at, r.until_at FROM page_route r JOIN page p ON p.id = r.page_id WHERE p.portfolio_id = ?',
    [portfolioId],
  );
}

export function hostsOf(db: Db, portfolioId: PortfolioId): Promise<{ id: HostId; name: string; version: number }[]> {
  return rowsOf(db, 'SELECT id, name, version FROM host WHERE portfolio_id = ? ORDER BY id', [portfolioId]);
}

export async function livingEdges(db: Db, since: Instant): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(db, 'SELECT id FROM edge WHERE seen_at > ? ORDER BY id', [dateOf(since)]);
  return rows.map(({ id }) => id);
}

/** Puts questions to all edges, and wakes them. */
export async function ask(db: Db, questions: readonly EdgeQuestion[], at: Instant): Promise<number> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    'INSERT INTO edge_question (asked_at, questions) VALUES (?, ?) RETURNING id',
    [dateOf(at), JSON.stringify(questions)],
  );
  await db.raw("SELECT pg_notify('domatium_routes', '')");
  return row?.id ?? 0;
}

export interface EdgeAnswer {
  readonly edge_id: string;
  readonly versions: Readonly<Record<string, number>>;
  readonly answers: readonly string[];
}

export function answersOf(db: Db, questionId: number): Promise<EdgeAnswer[]> {
  return rowsOf(db, 'SELECT edge_id, versions, answers FROM edge_answer WHERE question_id = ?', [questionId]);
}

/** Takes a question back, and any that somebody left behind. */
export async function forget(db: Db, questionId: number, before: Instant): Promise<void> {
  await rowsOf(db, 'DELETE FROM edge_question WHERE id = ? OR asked_at < ?', [questionId, dateOf(before)]);
}

/** Keeps what was found; what is older than a month goes. */
export async function keep(
  db: Db,
  portfolioId: PortfolioId,
  at: Instant,
  checked: object,
  differences: readonly unknown[],
): Promise<void> {
  await rowsOf(db, 'INSERT INTO verification (portfolio_id, at, checked, differences) VALUES (?, ?, ?, ?)', [
    portfolioId,
    dateOf(at),
    JSON.stringify(checked),
    JSON.stringify(differences.slice(0, 200)),
  ]);
  await rowsOf(db, "DELETE FROM verification WHERE portfolio_id = ? AND at < ?::timestamptz - interval '30 days'", [
    portfolioId,
    dateOf(at),
  ]);
}
