import { TINY, type Accepted, type Finding, type Severities } from '@domatium/core/checks';
import type { PageDocument } from '@domatium/core/document';
import { findingWords, type WriteInstant } from '@domatium/core/words';
import type { Instant } from '@domatium/core/time';
import { canonical, groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

/** Where something was found: in a draft, in a page as it is planned, or by looking at all pages as they are. */
export type Source = 'draft' | 'plan' | 'portfolio';

export interface UncheckedDraft {
  readonly page_id: PageId;
  readonly portfolio_id: PortfolioId;
  readonly version: number;
  readonly document: PageDocument;
}

/** Drafts whose newest version nobody has checked; those somebody is just saving are left for the next time. */
export function uncheckedDrafts(trx: Db, most: number): Promise<UncheckedDraft[]> {
  return rowsOf(
    trx,
    `SELECT d.page_id, d.portfolio_id, d.version, d.document FROM draft d WHERE d.checked_version <> d.version ORDER BY d.page_id LIMIT ? FOR UPDATE OF d SKIP LOCKED`,
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
    'DELETE FROM finding WHERE page_id = ANY(?) AND source = ? RETURNING page_id, coalesce(usual, severity) AS severity, code, params',
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
        usual: severity,
        code,
        params,
        message,
        mend,
        block_id: place && 'blockId' in place ? place.blockId : null,
      })),
    ),
  );
  await takeAsSites(trx, ids);
  return ids.filter((id) => said(byId.get(id)).sort().join() !== said(byPage.get(id)).sort().join());
}

/** What a site `s` takes otherwise than usual, as an object by code. */
export const SEVERITIES =
  "(SELECT coalesce(jsonb_object_agg(x.code, x.taken), '{}') FROM site_severity x WHERE x.site_id = s.id)";

/** Findings of pages become as serious as the sites take them on which the pages lie, or lay last. */
export async function takeAsSites(trx: Db, pageIds: readonly PageId[]): Promise<void> {
  if (!pageIds.length) return;
  await trx.raw(
    `UPDATE finding f SET severity = x.taken FROM (
      SELECT f.page_id, f.source, f.ordinal, coalesce(s.taken, f.usual) AS taken FROM finding f
      JOIN (SELECT DISTINCT ON (page_id) page_id, site_id FROM placement WHERE page_id = ANY(?)
        ORDER BY page_id, during @> now() DESC, from_at DESC) l ON l.page_id = f.page_id
      LEFT JOIN site_severity s ON s.site_id = l.site_id AND s.code = f.code WHERE f.usual IS NOT NULL) x
    WHERE f.page_id = x.page_id AND f.source = x.source AND f.ordinal = x.ordinal AND f.severity <> x.taken`,
    [[...pageIds]],
  );
}

/** What a site takes otherwise than usual, of all sites of a portfolio that do. */
export async function severitiesOf(db: Db, portfolioId: PortfolioId): Promise<ReadonlyMap<number, Severities>> {
  const rows = await rowsOf<{ id: number; severities: Severities }>(
    db,
    'SELECT site_id AS id, jsonb_object_agg(code, taken) AS severities FROM site_severity WHERE portfolio_id = ? GROUP BY site_id',
    [portfolioId],
  );
  return new Map(rows.map(({ id, severities }) => [id, severities]));
}

/** Whether a finding `f` is accepted at an instant, which is bound. */
export const ACCEPTED = `EXISTS (SELECT FROM finding_acceptance a WHERE a.page_id = f.page_id AND a.code = f.code
  AND a.block_id = coalesce(f.block_id, '') AND (a.until_at IS NULL OR a.until_at > ?))`;

/** What is accepted at an instant, of some pages. */
export function acceptedOf(
  db: Db,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<(Accepted & { readonly pageId: PageId })[]> {
  return rowsOf(
    db,
    `SELECT page_id AS "pageId", code, nullif(block_id, '') AS "blockId" FROM finding_acceptance
    WHERE page_id = ANY(?) AND (until_at IS NULL OR until_at > ?)`,
    [pageIds, dateOf(at)],
  );
}

export interface FindingCount {
  readonly page_id: PageId;
  readonly blocks: number;
  readonly worthFixing: number;
}

/** How much was found in each page that has something and is not accepted; in all pages where none are named. */
export function findingCounts(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
  at: Instant,
): Promise<FindingCount[]> {
  return rowsOf(
    db,
    `SELECT page_id, count(*) FILTER (WHERE severity = 'blocks')::int AS blocks,
      count(*) FILTER (WHERE severity = 'worth-fixing')::int AS "worthFixing"
    FROM finding f WHERE portfolio_id = ? AND severity <> 'off' AND NOT ${ACCEPTED} ${pageIds ? 'AND page_id = ANY(?)' : ''} GROUP BY page_id`,
    [portfolioId, dateOf(at), ...(pageIds ? [pageIds] : [])],
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

/** What was found in a page and is not accepted, what blocks first, in words of today. */
export async function findingsOfPage(
  db: Db,
  portfolioId: PortfolioId,
  pageId: PageId,
  write: WriteInstant,
  at: Instant,
): Promise<PageFinding[]> {
  const rows = await rowsOf<PageFinding>(
    db,
    `SELECT source, severity, code, params, message, mend FROM finding f WHERE portfolio_id = ? AND page_id = ?
      AND severity <> 'off' AND NOT ${ACCEPTED} ORDER BY severity, source, ordinal`,
    [portfolioId, pageId, dateOf(at)],
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
