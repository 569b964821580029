import { TINY, type Finding } from '@domatium/core/checks';
import type { PageDocument } from '@domatium/core/document';
import { findingWords, type WriteInstant } from '@domatium/core/words';
import { canonical, groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export type Source = 'draft' | 'plan';

export interface UncheckedDraft {
  readonly page_id: PageId;
  readonly portfolio_id: PortfolioId;
  readonly version: number;
  readonly document: PageDocument;
  /** How its site takes first content. */
  readonly first_content: Finding['severity'];
}

/** Drafts whose newest version nobody has checked; those somebody is just saving are left for the next time. */
export function uncheckedDrafts(trx: Db, most: number): Promise<UncheckedDraft[]> {
  return rowsOf(
    trx,
    `SELECT d.page_id, d.portfolio_id, d.version, d.document, coalesce((
      SELECT s.first_content FROM placement l JOIN site s ON s.id = l.site_id WHERE l.page_id = d.page_id
      ORDER BY l.during @> now() DESC, l.from_at DESC LIMIT 1), 'blocks') AS first_content
    FROM draft d WHERE d.checked_version <> d.version ORDER BY d.page_id LIMIT ? FOR UPDATE OF d SKIP LOCKED`,
    [most],
  );
}

/** Whether any draft is to be checked. */
export async function hasUnchecked(db: Db): Promise<boolean> {
  return (await rowsOf(db, 'SELECT FROM draft WHERE checked_version <> version LIMIT 1')).length > 0;
}

export async function noteChecked(trx: Db, drafts: readonly UncheckedDraft[]): Promise<void> {
  const ids = drafts.map(({ page_id }) => page_id);
  await trx.raw('UPDATE draft SET checked_version = version WHERE page_id = ANY(?)', [ids]);
}

/** What a finding says, apart from its words; a row of an earlier version has no code. */
interface Said {
  readonly severity: string;
  readonly code: string | null;
  readonly params: unknown;
}

/** Puts findings in the place of those that were known of these pages; gives the pages of which something changed. */
export async function replaceFindings(
  trx: Db,
  portfolioId: PortfolioId,
  source: Source,
  byPage: ReadonlyMap<PageId, readonly Finding[]>,
): Promise<PageId[]> {
  const ids = [...byPage.keys()];
  const known = await rowsOf<{ page_id: PageId } & Said>(
    trx,
    'DELETE FROM finding WHERE page_id = ANY(?) AND source = ? RETURNING page_id, severity, code, params',
    [ids, source],
  );
  const byId = groupBy(known, ({ page_id }) => page_id);
  const said = (findings: readonly Said[] = []) =>
    findings.map(({ severity, code, params }) => canonical([severity, code, params]));
  await insertRows(
    trx,
    'finding',
    [...byPage].flatMap(([pageId, findings]) =>
      findings.map(({ severity, code, params, message, mend, place }, ordinal) => ({
        portfolio_id: portfolioId,
        page_id: pageId,
        source,
        ordinal,
        severity,
        code,
        params,
        message,
        mend,
        block_id: place && 'blockId' in place ? place.blockId : null,
      })),
    ),
  );
  return ids.filter((id) => said(byId.get(id)).sort().join() !== said(byPage.get(id)).sort().join());
}

export interface FindingCount {
  readonly page_id: PageId;
  readonly blocks: number;
  readonly worthFixing: number;
}

/** How much was found in each page that has something; in all pages where none are named. */
export function findingCounts(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<FindingCount[]> {
  return rowsOf(
    db,
    `SELECT page_id, count(*) FILTER (WHERE severity = 'blocks')::int AS blocks,
      count(*) FILTER (WHERE severity = 'worth-fixing')::int AS "worthFixing"
    FROM finding WHERE portfolio_id = ? ${pageIds ? 'AND page_id = ANY(?)' : ''} GROUP BY page_id`,
    pageIds ? [portfolioId, pageIds] : [portfolioId],
  );
}

export interface PageFinding {
  readonly source: Source;
  readonly severity: Finding['severity'];
  readonly code: string | null;
  readonly params: object | null;
  readonly message: string;
  readonly mend: string;
}

/** What was found in a page, what blocks first, in words of today. */
export async function findingsOfPage(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  write: WriteInstant,
): Promise<PageFinding[]> {
  const rows = await rowsOf<PageFinding>(
    db,
    `SELECT source, severity, code, params, message, mend FROM finding WHERE portfolio_id = ? AND page_id = ?
    ORDER BY severity, source, ordinal`,
    [portfolioId, pageId],
  );
  return rows.map((row) => ({ ...row, ...(row.code === null ? null : findingWords(row.code, row.params, write)) }));
}

/** Pictures of a portfolio that are too small to be seen. */
export async function tinyPictures(db: Db, portfolioId: PortfolioId): Promise<Set<number>> {
  const rows = await rowsOf<{ id: number }>(
    db,
    'SELECT id FROM picture WHERE portfolio_id = ? AND greatest(width, height) <= ?',
    [portfolioId, TINY],
  );
  return new Set(rows.map(({ id }) => id));
}
