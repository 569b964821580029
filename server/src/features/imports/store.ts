import { readablePath } from '@domatium/core/address';
import type { PageDocument } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

export interface KnownPage {
  readonly id: PageId;
  readonly name: string;
  readonly campaign_id: number | null;
  readonly site_id: number;
  readonly path: string;
  readonly document: PageDocument;
  readonly labels: readonly string[];
  readonly owner_id: number | null;
  readonly periods: readonly { readonly from: number; readonly until: number | null }[];
  /** What a list says comes behind the period that it shows. */
  readonly afterwards: string;
}

/** Pages of a portfolio that lie somewhere now, with what rows of a file can change. */
export function knownPages(
  db: Db,
  portfolioId: PortfolioId,
  paths: readonly string[],
  ids: readonly number[],
  now: Instant,
): Promise<Omit<KnownPage, 'afterwards'>[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.campaign_id, p.owner_id, l.site_id, l.path, d.document,
      coalesce((SELECT jsonb_agg(jsonb_build_object('from', (extract(epoch FROM q.from_at) * 1000)::bigint,
        'until', (extract(epoch FROM q.until_at) * 1000)::bigint) ORDER BY q.from_at) FROM period q WHERE q.page_id = p.id), '[]') AS periods,
      coalesce((SELECT array_agg(t.name ORDER BY t.name) FROM page_label x JOIN label t ON t.id = x.label_id WHERE x.page_id = p.id), '{}') AS labels
    FROM page p JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz JOIN draft d ON d.page_id = p.id
    WHERE p.portfolio_id = ? AND p.deleted_at IS NULL AND (l.path = ANY(?) OR p.id = ANY(?))
    AND NOT EXISTS (SELECT 1 FROM bin_stay b WHERE b.page_id = p.id AND b.until_at IS NULL) ORDER BY p.id`,
    [dateOf(now), portfolioId, paths, ids],
  );
}

export function sitesOf(
  db: Db,
  portfolioId: PortfolioId,
  now: Instant,
): Promise<{ id: number; name: string; host: string; base_path: string }[]> {
  return rowsOf(
    db,
    `SELECT s.id, s.name, h.name AS host, a.base_path FROM site s JOIN site_address a ON a.site_id = s.id AND a.is_primary AND a.during @> ?::timestamptz
    JOIN host h ON h.id = a.host_id WHERE s.portfolio_id = ? ORDER BY s.id`,
    [dateOf(now), portfolioId],
  );
}

export function campaignsOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(db, 'SELECT id, name FROM campaign WHERE portfolio_id = ?', [portfolioId]);
}

export interface ChangedPage {
  readonly id: PageId;
  readonly name: string;
  readonly campaignId: number | null;
  readonly ownerId: number | null;
}

export async function savePages(
  trx: Db,
  pages: readonly ChangedPage[],
  now: Instant,
  accountId: number | null,
): Promise<void> {
  await rowsOf(
    trx,
    `UPDATE page p SET name = n.name, campaign_id = n.campaign_id, owner_id = n.owner_id, version = version + 1, changed_at = ?, changed_by = ?
    FROM unnest(?::bigint[], ?::text[], ?::bigint[], ?::bigint[]) AS n (id, name, campaign_id, owner_id) WHERE p.id = n.id`,
    [
      dateOf(now),
      accountId,
      pages.map(({ id }) => id),
      pages.map(({ name }) => name),
      pages.map(({ campaignId }) => campaignId),
      pages.map(({ ownerId }) => ownerId),
    ],
  );
}

export async function saveDrafts(
  trx: Db,
  drafts: readonly (readonly [PageId, PageDocument])[],
  now: Instant,
  accountId: number | null,
): Promise<void> {
  await rowsOf(
    trx,
    `UPDATE draft d SET document = n.document::jsonb, version = version + 1, changed_at = ?, changed_by = ?
    FROM unnest(?::bigint[], ?::text[]) AS n (id, document) WHERE d.page_id = n.id`,
    [dateOf(now), accountId, drafts.map(([id]) => id), drafts.map(([, document]) => JSON.stringify(document))],
  );
}

/** Who works here, by whom rows can name the owner of a page. */
export function peopleOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string; email: string }[]> {
  return rowsOf(
    db,
    'SELECT a.id, a.name, a.email FROM membership m JOIN account a ON a.id = m.account_id WHERE m.portfolio_id = ?',
    [portfolioId],
  );
}

/** Where pages lie now, as a list says it; those that lie nowhere are left out. */
export async function addressesOfPages(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly PageId[],
  now: Instant,
): Promise<Map<PageId, string>> {
  const rows = await rowsOf<{ id: PageId; host: string; base: string; path: string }>(
    db,
    `SELECT l.page_id AS id, h.name AS host, a.base_path AS base, l.path FROM placement l
    JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.during @> ?::timestamptz JOIN host h ON h.id = a.host_id
    WHERE l.portfolio_id = ? AND l.page_id = ANY(?) AND l.during @> ?::timestamptz`,
    [dateOf(now), portfolioId, ids, dateOf(now)],
  );
  const below = (base: string, path: string) => (base === '/' ? '' : base) + (base !== '/' && path === '/' ? '' : path);
  return new Map(rows.map(({ id, host, base, path }) => [id, host + readablePath(below(base, path))]));
}
