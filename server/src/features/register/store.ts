import type { Severities } from '@domatium/core/checks';
import type { Robots } from '@domatium/core/document';
import { groupBy, type PageId, type PortfolioId } from '@domatium/core/plan';
import { stretchesOf, type HiddenStretch } from '@domatium/core/metadata';
import type { RegisterEntry } from '@domatium/core/register';
import type { Instant, WallTime } from '@domatium/core/time';
import type { SummaryPart } from '@domatium/core/words';
import { SEVERITIES } from '../../heart/checks/index.js';
import { titleOn } from '../../heart/publishing/index.js';
import { stockOf } from '../../heart/stock/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

/** A condition on pages, and its bindings; all pages where none are named. */
const only = (column: string, pageIds: readonly PageId[] | null) =>
  pageIds ? { sql: `AND ${column} = ANY(?)`, bindings: [pageIds] } : { sql: '', bindings: [] };

export function sitesOf(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ id: number; name: string; severities: Severities }[]> {
  return rowsOf(db, `SELECT id, name, ${SEVERITIES} AS severities FROM site s WHERE portfolio_id = ? ORDER BY id`, [
    portfolioId,
  ]);
}

/** Where sites lie over time, under their primary addresses. */
export function primaryAddressesOf(
  db: Db,
  portfolioId: PortfolioId,
): Promise<
  { site_id: number; from: Instant; until: Instant | null; host: string; basePath: string; domain: string | null }[]
> {
  return rowsOf(
    db,
    `SELECT a.site_id, a.from_at AS "from", a.until_at AS "until", h.name AS host, a.base_path AS "basePath", d.name AS domain
    FROM site_address a JOIN host h ON h.id = a.host_id LEFT JOIN domain d ON d.id = h.domain_id
    WHERE a.portfolio_id = ? AND a.is_primary ORDER BY a.from_at`,
    [portfolioId],
  );
}

export interface PageRow {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly version: number;
  readonly campaign_id: number | null;
  readonly owner_id: number | null;
  readonly template_id: number | null;
  readonly changed_at: Instant;
  readonly changed_by: number | null;
}

export function pagesOf(db: Db, portfolioId: PortfolioId, pageIds: readonly PageId[] | null): Promise<PageRow[]> {
  const { sql, bindings } = only('p.id', pageIds);
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.role, p.version, p.campaign_id, p.owner_id, p.template_id, p.changed_at, p.changed_by FROM page p WHERE p.portfolio_id = ? AND p.deleted_at IS NULL ${sql} ORDER BY p.id`,
    [portfolioId, ...bindings],
  );
}

export function placementsOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<{ page_id: PageId; from: Instant; until: Instant | null; site_id: number; path: string }[]> {
  const { sql, bindings } = only('page_id', pageIds);
  return rowsOf(
    db,
    `SELECT page_id, from_at AS "from", until_at AS "until", site_id, path FROM placement WHERE portfolio_id = ? ${sql} ORDER BY page_id, from_at`,
    [portfolioId, ...bindings],
  );
}

/**
 * Periods of pages, in order. They travel as one text a page, `from,until,revision;…` in milliseconds: reading sixty
 * thousand rows of dates takes longer than everything else the register is made of.
 */
export async function periodsOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<Map<PageId, { from: number; until: number | null; revision: number }[]>> {
  const { sql, bindings } = only('p.page_id', pageIds);
  const rows = await rowsOf<{ page_id: PageId; periods: string }>(
    db,
    `SELECT p.page_id, string_agg(concat_ws(',', round(extract(epoch FROM p.from_at) * 1000), coalesce(round(extract(epoch FROM p.until_at) * 1000)::text, '-'), r.number), ';' ORDER BY p.from_at) AS periods
    FROM period p JOIN revision r ON r.id = p.revision_id WHERE p.portfolio_id = ? ${sql} GROUP BY p.page_id`,
    [portfolioId, ...bindings],
  );
  return new Map(
    rows.map(({ page_id, periods }) => [
      page_id,
      periods.split(';').map((text) => {
        const [from, until, revision] = text.split(',');
        return { from: Number(from), until: until === '-' ? null : Number(until), revision: Number(revision) };
      }),
    ]),
  );
}

/** What pages ask of search engines themselves, while such a revision is on the air. */
export async function hiddenOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<Map<PageId, HiddenStretch[]>> {
  const { sql, bindings } = only('p.page_id', pageIds);
  const rows = await rowsOf<{ page_id: PageId; from: Instant; until: Instant | null; robots: Robots }>(
    db,
    `SELECT p.page_id, p.from_at AS "from", p.until_at AS "until", r.document #> '{metadata,robots}' AS robots
    FROM revision r JOIN period p ON p.revision_id = r.id
    WHERE r.portfolio_id = ? AND r.document #> '{metadata,robots}' IS NOT NULL ${sql} ORDER BY p.page_id, p.from_at`,
    [portfolioId, ...bindings],
  );
  const hidden = new Map<PageId, HiddenStretch[]>();
  for (const { page_id, from, until, robots } of rows) {
    const own = hidden.get(page_id) ?? [];
    hidden.set(page_id, own);
    own.push(...stretchesOf(robots, from, until));
  }
  return hidden;
}

/** While pages name another one for search engines, and which: `null` for an outside address. */
export async function elsewhereOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<Map<PageId, RegisterEntry['elsewhere']>> {
  const { sql, bindings } = only('p.page_id', pageIds);
  const rows = await rowsOf<{ page_id: PageId; from: Instant; until: Instant | null; to: PageId | null }>(
    db,
    `SELECT p.page_id, p.from_at AS "from", p.until_at AS "until", (r.document #>> '{metadata,canonical,pageId}')::int AS "to"
    FROM revision r JOIN period p ON p.revision_id = r.id
    WHERE r.portfolio_id = ? AND r.document #> '{metadata,canonical}' IS NOT NULL ${sql} ORDER BY p.page_id, p.from_at`,
    [portfolioId, ...bindings],
  );
  const others = rows.filter(({ page_id, to }) => page_id !== to);
  return new Map(
    [...groupBy(others, (row) => row.page_id)].map(([id, own]) => [
      id,
      own.map(({ from, until, to }) => ({ from, until, to })),
    ]),
  );
}

export function labelsOfPages(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<{ page_id: PageId; name: string }[]> {
  const { sql, bindings } = only('p.page_id', pageIds);
  return rowsOf(
    db,
    `SELECT p.page_id, l.name FROM page_label p JOIN label l ON l.id = p.label_id WHERE p.portfolio_id = ? ${sql} ORDER BY p.page_id, l.name`,
    [portfolioId, ...bindings],
  );
}

/** Pages whose last period is followed by a redirect: what was said of it last, or else what its end leaves. */
export async function pagesRedirectingAfter(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<Set<PageId>> {
  const { sql, bindings } = only('page_id', pageIds);
  const rows = await rowsOf<{ page_id: PageId }>(
    db,
    `SELECT l.page_id FROM (
      SELECT DISTINCT ON (page_id) page_id, until_at, leaves FROM period WHERE portfolio_id = ? ${sql} ORDER BY page_id, from_at DESC) l
    LEFT JOIN LATERAL (SELECT answer FROM statement s WHERE s.page_id = l.page_id AND s.kind = 'afterwards' AND s.from_at >= l.until_at
      ORDER BY s.from_at DESC, s.ordinal DESC LIMIT 1) said ON true
    WHERE l.until_at IS NOT NULL AND coalesce(said.answer, l.leaves) = 'redirect'`,
    [portfolioId, ...bindings],
  );
  return new Set(rows.map(({ page_id }) => page_id));
}

/** What the last verification found, or `null`. */
export async function lastDifferences(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ at: Instant; count: number; first: string[] } | null> {
  const [row] = await rowsOf<{ at: Instant; differences: { address: string; words: string }[] }>(
    db,
    'SELECT at, differences FROM verification WHERE portfolio_id = ? ORDER BY at DESC, id DESC LIMIT 1',
    [portfolioId],
  );
  if (!row?.differences.length) return null;
  const first = row.differences.slice(0, 5).map(({ address, words }) => `${address}: ${words}`);
  return { at: row.at, count: row.differences.length, first };
}

export function campaignsOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(db, 'SELECT id, name FROM campaign WHERE portfolio_id = ? ORDER BY name', [portfolioId]);
}

export function templatesOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(
    db,
    'SELECT id, name FROM page WHERE portfolio_id = ? AND is_template AND deleted_at IS NULL ORDER BY name, id',
    [portfolioId],
  );
}

/** Everybody who is a member, owns a page or changed one. */
export function peopleOf(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string }[]> {
  return rowsOf(
    db,
    `SELECT a.id, a.name FROM account a WHERE a.id IN (
      SELECT account_id FROM membership WHERE portfolio_id = ? UNION SELECT owner_id FROM page WHERE portfolio_id = ? UNION SELECT changed_by FROM page WHERE portfolio_id = ?)
    ORDER BY a.name`,
    [portfolioId, portfolioId, portfolioId],
  );
}

export async function labelsOf(db: Db, portfolioId: PortfolioId): Promise<string[]> {
  const rows = await rowsOf<{ name: string }>(db, 'SELECT name FROM label WHERE portfolio_id = ? ORDER BY name', [
    portfolioId,
  ]);
  return rows.map(({ name }) => name);
}

export function waitingReleases(
  db: Db,
  portfolioId: PortfolioId,
): Promise<
  { id: number; at: number; summary: string; parts: readonly SummaryPart[] | null; failure: string | null }[]
> {
  return rowsOf(
    db,
    'SELECT id, at, summary, parts, failure FROM release WHERE portfolio_id = ? AND out_at IS NULL ORDER BY id DESC LIMIT 20',
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

/** When pages were in the bin. */
export function binStaysOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<{ page_id: PageId; from: Instant; until: Instant | null }[]> {
  const { sql, bindings } = only('page_id', pageIds);
  return rowsOf(
    db,
    `SELECT page_id, from_at AS "from", until_at AS "until" FROM bin_stay WHERE portfolio_id = ? ${sql} ORDER BY page_id, from_at`,
    [portfolioId, ...bindings],
  );
}

/** Stretches of prepared releases: `null` begins with the press. Wall-clock times become instants where they are read. */
export function preparedStretches(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<{ page_id: PageId; from: 'now' | WallTime; until: WallTime | null }[]> {
  const { sql, bindings } = only("(c->>'pageId')::bigint", pageIds);
  return rowsOf(
    db,
    `SELECT (c->>'pageId')::bigint AS page_id, c->'from' AS "from", nullif(c->'until', 'null') AS "until"
    FROM prepared_release p CROSS JOIN jsonb_array_elements(p.changes) AS c
    WHERE p.portfolio_id = ? AND p.release_id IS NULL AND p.dropped_at IS NULL AND c->>'act' = 'release' ${sql}`,
    [portfolioId, ...bindings],
  );
}

/** Open tasks of pages, and the earliest day one is due as days since 1970, 0 for none. */
export function openTasks(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[] | null,
): Promise<{ page_id: PageId; open: number; due: number }[]> {
  const { sql, bindings } = only('page_id', pageIds);
  return rowsOf(
    db,
    `SELECT page_id, count(*)::int AS open, coalesce(min(due_day) - date '1970-01-01', 0)::int AS due FROM task
    WHERE portfolio_id = ? AND done_at IS NULL ${sql} GROUP BY page_id`,
    [portfolioId, ...bindings],
  );
}

const MOST_FOUND = 5000;

/** Pages whose drafts hold, for each word of a text, a word that begins like it. */
export async function pagesWithText(db: Db, portfolioId: PortfolioId, text: string): Promise<PageId[]> {
  const words = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  if (!words.length) return [];
  const rows = await rowsOf<{ page_id: PageId }>(
    db,
    `SELECT page_id FROM draft WHERE portfolio_id = ? AND words @@ to_tsquery('simple', ?) ORDER BY page_id LIMIT ${MOST_FOUND}`,
    [portfolioId, words.map((word) => `${word}:*`).join(' & ')],
  );
  return rows.map(({ page_id }) => page_id);
}

/** The titles pages have at a moment, with the values of their sites; `null` of those that are not live then. */
export async function titlesAt(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly PageId[],
  at: Instant,
): Promise<[PageId, string | null][]> {
  const rows = await rowsOf<{ id: PageId; title: string; site_id: number; zone: string }>(
    db,
    `SELECT q.page_id AS id, r.document #>> '{metadata,title}' AS title, l.site_id, f.zone
    FROM period q JOIN revision r ON r.id = q.revision_id JOIN portfolio f ON f.id = q.portfolio_id
    JOIN placement l ON l.page_id = q.page_id AND l.during @> ?::timestamptz
    WHERE q.portfolio_id = ? AND q.page_id = ANY(?) AND q.during @> ?::timestamptz`,
    [dateOf(at), portfolioId, ids, dateOf(at)],
  );
  const stock = rows.some(({ title }) => title.includes('{')) ? await stockOf(db, portfolioId) : [];
  const titles = new Map(
    rows.map(({ id, title, site_id, zone }) => [id, titleOn({ stock, zone, now: at }, title, site_id, at)]),
  );
  return ids.map((id) => [id, titles.get(id) ?? null]);
}
