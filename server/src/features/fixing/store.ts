import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
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
    WHERE f.portfolio_id = ? AND f.code IS NOT NULL
      AND NOT EXISTS (SELECT FROM bin_stay b WHERE b.page_id = p.id AND b.from_at <= ? AND (b.until_at IS NULL OR b.until_at > ?))
      AND NOT (EXISTS (SELECT FROM period q WHERE q.page_id = p.id)
        AND NOT EXISTS (SELECT FROM period q WHERE q.page_id = p.id AND (q.until_at IS NULL OR q.until_at > ?)))
    ORDER BY f.page_id, f.severity, f.code, f.message, f.source, f.ordinal`,
    [at, at, at, portfolioId, at, at, at],
  );
}
