import type { AcceptedView, BodyOf, api } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { ACCEPTED } from '../../heart/checks/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** Something that was found, with the page and where it lies. */
export interface OpenFinding {
  readonly pageId: PageId;
  readonly name: string;
  readonly host: string;
  readonly path: string;
  readonly code: string;
  readonly severity: 'blocks' | 'worth-fixing';
  readonly params: object | null;
  readonly message: string;
  readonly mend: string;
  readonly blockId: string | null;
}

/** What was found on pages that are not in the bin and not all over; each once, though draft and plan both have it. */
export function openFindings(db: Db, portfolioId: PortfolioId, now: Instant): Promise<OpenFinding[]> {
  const at = dateOf(now);
  return rowsOf(
    db,
    `SELECT DISTINCT ON (f.page_id, f.severity, f.code, f.message) f.page_id AS "pageId", p.name, coalesce(h.name, '') AS host, f.code, f.severity, f.params, f.message, f.mend,
      f.block_id AS "blockId", CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END AS path
    FROM finding f JOIN page p ON p.id = f.page_id AND p.deleted_at IS NULL
    LEFT JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    LEFT JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.from_at <= ? AND (a.until_at IS NULL OR a.until_at > ?)
    LEFT JOIN host h ON h.id = a.host_id
    WHERE f.portfolio_id = ? AND f.code IS NOT NULL AND f.severity <> 'off' AND NOT ${ACCEPTED}
      AND NOT EXISTS (SELECT FROM bin_stay b WHERE b.page_id = p.id AND b.from_at <= ? AND (b.until_at IS NULL OR b.until_at > ?))
      AND NOT (EXISTS (SELECT FROM period q WHERE q.page_id = p.id)
        AND NOT EXISTS (SELECT FROM period q WHERE q.page_id = p.id AND (q.until_at IS NULL OR q.until_at > ?)))
    ORDER BY f.page_id, f.severity, f.code, f.message, f.source, f.ordinal`,
    [at, at, at, portfolioId, at, at, at, at],
  );
}

type Asked = BodyOf<typeof api.acceptFinding>;

/** What is accepted on pages that are there, the last first. */
export function acceptances(db: Db, portfolioId: PortfolioId, now: Instant): Promise<Omit<AcceptedView, 'title'>[]> {
  const at = dateOf(now);
  return rowsOf(
    db,
    `SELECT x.id, x.page_id AS "pageId", p.name, coalesce(h.name, '') AS host, coalesce(CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END, '') AS path,
      x.code, nullif(x.block_id, '') AS "blockId", x.reason, x.until_at AS "until", c.name AS by, x.at
    FROM finding_acceptance x JOIN page p ON p.id = x.page_id AND p.deleted_at IS NULL
    LEFT JOIN account c ON c.id = x.account_id
    LEFT JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    LEFT JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.from_at <= ? AND (a.until_at IS NULL OR a.until_at > ?)
    LEFT JOIN host h ON h.id = a.host_id
    WHERE x.portfolio_id = ? AND (x.until_at IS NULL OR x.until_at > ?) ORDER BY x.at DESC, x.id DESC`,
    [at, at, at, portfolioId, at],
  );
}

/** Takes the place of what was accepted before at the same place; `null` where the page is not of the portfolio. */
export async function insertAcceptance(
  trx: Db,
  portfolioId: PortfolioId,
  { pageId, code, blockId, reason, until }: Asked,
  { now, account }: { readonly now: Instant; readonly account: number | null },
): Promise<number | null> {
  const [row] = await rowsOf<{ id: number }>(
    trx,
    `INSERT INTO finding_acceptance (portfolio_id, page_id, code, block_id, reason, until_at, account_id, at)
    SELECT portfolio_id, id, ?, ?, ?, ?, ?, ? FROM page WHERE portfolio_id = ? AND id = ? AND deleted_at IS NULL
    ON CONFLICT (page_id, code, block_id) DO UPDATE SET reason = excluded.reason, until_at = excluded.until_at,
      account_id = excluded.account_id, at = excluded.at RETURNING id`,
    [
      ...[code, blockId ?? '', reason, until === null ? null : dateOf(until as Instant), account, dateOf(now)],
      ...[portfolioId, pageId],
    ],
  );
  return row?.id ?? null;
}

/** Gives what was accepted; `null` where it is not of the portfolio, or was withdrawn already. */
export async function removeAcceptance(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
): Promise<{ pageId: PageId; code: string; reason: string } | null> {
  const [row] = await rowsOf<{ pageId: PageId; code: string; reason: string }>(
    trx,
    'DELETE FROM finding_acceptance WHERE portfolio_id = ? AND id = ? RETURNING page_id AS "pageId", code, reason',
    [portfolioId, id],
  );
  return row ?? null;
}
