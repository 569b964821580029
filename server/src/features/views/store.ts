import type { FeedView, NamedView } from '@domatium/contracts';
import type { Metadata } from '@domatium/core/document';
import type { AccountId, PortfolioId } from '@domatium/core/plan';
import type { ViewParts } from '@domatium/core/register';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** What the drafts of pages say of them beside their blocks. */
export async function settingsOf(db: Db, pageIds: readonly number[]): Promise<Map<number, Metadata>> {
  const rows = await rowsOf<{ id: number; metadata: Metadata }>(
    db,
    `SELECT page_id AS id, document -> 'metadata' AS metadata FROM draft WHERE page_id = ANY(?)`,
    [pageIds],
  );
  return new Map(rows.map(({ id, metadata }) => [id, metadata]));
}

export function namedViewsOf(db: Db, portfolioId: PortfolioId, accountId: number | null): Promise<NamedView[]> {
  return rowsOf(
    db,
    `SELECT v.id, v.name, v.is_shared AS "isShared", v.account_id = ? AS "isOwn", a.name AS by, v.parts FROM named_view v JOIN account a ON a.id = v.account_id
    WHERE v.portfolio_id = ? AND (v.is_shared OR v.account_id = ?) ORDER BY v.is_shared, v.name`,
    [accountId, portfolioId, accountId],
  );
}

export async function saveView(
  db: Db,
  portfolioId: PortfolioId,
  accountId: number | null,
  view: { readonly name: string; readonly isShared: boolean; readonly parts: ViewParts },
  now: Instant,
): Promise<number> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    `INSERT INTO named_view (portfolio_id, account_id, name, is_shared, parts, made_at) VALUES (?, ?, ?, ?, ?::jsonb, ?)
    ON CONFLICT (portfolio_id, account_id, name) DO UPDATE SET is_shared = excluded.is_shared, parts = excluded.parts RETURNING id`,
    [portfolioId, accountId, view.name, view.isShared, JSON.stringify(view.parts), dateOf(now)],
  );
  if (!row) throw new Error('A view was not written');
  return row.id;
}

/** Whether something of one's own was there to be removed. */
export async function removeOwn(
  db: Db,
  table: 'named_view' | 'calendar_feed',
  portfolioId: PortfolioId,
  accountId: number | null,
  id: number,
): Promise<boolean> {
  return (await db(table).where({ portfolio_id: portfolioId, account_id: accountId, id }).delete()) > 0;
}

export function feedsOf(db: Db, portfolioId: PortfolioId, accountId: number | null): Promise<FeedView[]> {
  return rowsOf(
    db,
    'SELECT id, name, made_at AS "madeAt", parts FROM calendar_feed WHERE portfolio_id = ? AND account_id = ? ORDER BY id',
    [portfolioId, accountId],
  );
}

export async function insertFeed(
  db: Db,
  portfolioId: PortfolioId,
  accountId: number | null,
  feed: { readonly name: string; readonly parts: ViewParts; readonly tokenHash: string },
  now: Instant,
): Promise<number> {
  const [row] = (await db('calendar_feed')
    .insert({
      portfolio_id: portfolioId,
      account_id: accountId,
      name: feed.name,
      token_hash: feed.tokenHash,
      parts: JSON.stringify(feed.parts),
      made_at: dateOf(now),
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A feed was not written');
  return row.id;
}

export interface OpenFeed {
  readonly name: string;
  readonly parts: ViewParts;
  readonly portfolio_id: PortfolioId;
  readonly portfolio: string;
  readonly account_id: AccountId;
}

/** The feed of a private address, as long as whoever made it is a member. */
export async function feedByToken(db: Db, tokenHash: string): Promise<OpenFeed | null> {
  const [row] = await rowsOf<OpenFeed>(
    db,
    `SELECT f.name, f.parts, f.portfolio_id, p.name AS portfolio, f.account_id FROM calendar_feed f JOIN portfolio p ON p.id = f.portfolio_id
    JOIN membership m ON m.portfolio_id = f.portfolio_id AND m.account_id = f.account_id WHERE f.token_hash = ?`,
    [tokenHash],
  );
  return row ?? null;
}
