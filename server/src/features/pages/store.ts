import type { PageDocument } from '@domatium/core/document';
import type { AddressKey, PageId, PagePlan, PortfolioId, ReleaseId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface PageRow {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly version: number;
  readonly campaign: string | null;
  readonly owner: string | null;
  readonly is_template: boolean;
  readonly template_id: number | null;
  readonly template_name: string | null;
}

export async function pageById(db: Db, portfolioId: PortfolioId, id: number): Promise<PageRow | null> {
  const [row] = await rowsOf<PageRow>(
    db,
    `SELECT p.id, p.name, p.role, p.version, c.name AS campaign, o.name AS owner, p.is_template, p.template_id, t.name AS template_name FROM page p
    LEFT JOIN campaign c ON c.id = p.campaign_id LEFT JOIN page t ON t.id = p.template_id LEFT JOIN account o ON o.id = p.owner_id WHERE p.portfolio_id = ? AND p.id = ? AND p.deleted_at IS NULL`,
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
  readonly templateId?: number | null;
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
      template_id: page.templateId ?? null,
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
    WHERE a.host_id = ? AND (CASE WHEN a.base_path = '/' THEN l.path WHEN l.path = '/' THEN a.base_path ELSE a.base_path || l.path END) = ? AND l.during @> ?::timestamptz
    AND p.deleted_at IS NULL AND NOT EXISTS (SELECT 1 FROM bin_stay b WHERE b.page_id = p.id AND b.until_at IS NULL)`,
    [hostId, path, dateOf(now)],
  );
}

export interface ArrangedRow {
  readonly id: PageId;
  readonly name: string;
  readonly version: number;
  readonly campaign_id: number | null;
  readonly owner_id: number | null;
  readonly labels: readonly string[];
}

/** Pages with what they are arranged by, locked to the end of the transaction. */
export async function lockArranged(trx: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<ArrangedRow[]> {
  await rowsOf(trx, 'SELECT 1 FROM page WHERE portfolio_id = ? AND id = ANY(?) ORDER BY id FOR NO KEY UPDATE', [
    portfolioId,
    ids,
  ]);
  return rowsOf(
    trx,
    `SELECT p.id, p.name, p.version, p.campaign_id, p.owner_id,
      coalesce((SELECT array_agg(l.name ORDER BY l.name) FROM page_label x JOIN label l ON l.id = x.label_id WHERE x.page_id = p.id), '{}') AS labels
    FROM page p WHERE p.portfolio_id = ? AND p.id = ANY(?)`,
    [portfolioId, ids],
  );
}

/** Campaigns of a portfolio, and people who can own its pages: members, and whoever owns one already. */
export async function namedIn(db: Db, portfolioId: PortfolioId): Promise<[Set<number>, Set<number>]> {
  const campaigns = await rowsOf<{ id: number }>(db, 'SELECT id FROM campaign WHERE portfolio_id = ?', [portfolioId]);
  const people = await rowsOf<{ id: number }>(
    db,
    'SELECT account_id AS id FROM membership WHERE portfolio_id = ? UNION SELECT owner_id FROM page WHERE portfolio_id = ? AND owner_id IS NOT NULL',
    [portfolioId, portfolioId],
  );
  return [new Set(campaigns.map(({ id }) => id)), new Set(people.map(({ id }) => id))];
}

export interface Arrangement {
  readonly id: PageId;
  readonly campaign_id: number | null;
  readonly owner_id: number | null;
  readonly labels: readonly string[];
}

export async function saveArranged(
  trx: Db,
  portfolioId: PortfolioId,
  pages: readonly Arrangement[],
  now: Instant,
  accountId: number | null,
): Promise<void> {
  await rowsOf(
    trx,
    `UPDATE page p SET campaign_id = n.campaign_id, owner_id = n.owner_id, version = version + 1, changed_at = ?, changed_by = ?
    FROM unnest(?::bigint[], ?::bigint[], ?::bigint[]) AS n (id, campaign_id, owner_id) WHERE p.portfolio_id = ? AND p.id = n.id`,
    [
      dateOf(now),
      accountId,
      pages.map(({ id }) => id),
      pages.map(({ campaign_id }) => campaign_id),
      pages.map(({ owner_id }) => owner_id),
      portfolioId,
    ],
  );
}

/** Gives pages just these labels; labels nobody has any more go. */
export async function saveLabels(
  trx: Db,
  portfolioId: PortfolioId,
  pages: readonly Pick<Arrangement, 'id' | 'labels'>[],
): Promise<void> {
  const names = [...new Set(pages.flatMap(({ labels }) => labels))].sort();
  await rowsOf(
    trx,
    'INSERT INTO label (portfolio_id, name) SELECT ?, n FROM unnest(?::text[]) AS n ON CONFLICT DO NOTHING',
    [portfolioId, names],
  );
  const known = await rowsOf<{ id: number; name: string }>(
    trx,
    'SELECT id, name FROM label WHERE portfolio_id = ? AND name = ANY(?)',
    [portfolioId, names],
  );
  const idOf = new Map(known.map(({ id, name }) => [name, id]));
  await rowsOf(trx, 'DELETE FROM page_label WHERE portfolio_id = ? AND page_id = ANY(?)', [
    portfolioId,
    pages.map(({ id }) => id),
  ]);
  await insertRows(
    trx,
    'page_label',
    pages.flatMap(({ id, labels }) =>
      labels.map((name) => ({ portfolio_id: portfolioId, page_id: id, label_id: idOf.get(name) })),
    ),
  );
  await rowsOf(
    trx,
    'DELETE FROM label l WHERE l.portfolio_id = ? AND NOT EXISTS (SELECT 1 FROM page_label x WHERE x.label_id = l.id)',
    [portfolioId],
  );
}

/** Releases of any of these pages that were decided by a moment, but not out then: the earliest first. */
export function releasesNotOutAt(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<{ id: ReleaseId; page_id: PageId; before: PagePlan; out_at: Instant | null }[]> {
  return rowsOf(
    db,
    `SELECT r.id, p.page_id, p.before, r.out_at FROM release r JOIN release_page p ON p.release_id = r.id
    WHERE r.portfolio_id = ? AND p.page_id = ANY(?) AND r.at <= ? AND (r.out_at IS NULL OR r.out_at > ?) AND r.failure IS NULL ORDER BY r.id`,
    [portfolioId, pageIds, dateOf(at), dateOf(at)],
  );
}

/**
 * The artifact an address serves at a moment, past or planned. Where the page of that revision was only still served
 * then, because what followed it was late, it is the one it had last.
 */
export async function artifactAt(
  db: Db,
  { hostId, path, revisionId }: AddressKey & { readonly revisionId: number },
  at: Instant,
): Promise<string | null> {
  const [row] = await rowsOf<{ artifact: string }>(
    db,
    `SELECT artifact FROM route r JOIN portfolio o ON o.id = r.portfolio_id WHERE host_id = ? AND path = ? AND layer = 'page' AND revision_id = ? AND from_at <= ?
    AND (o.keep_days IS NULL OR until_at IS NULL OR until_at > now() - interval '1 day' * o.keep_days)
    AND page_id IN (SELECT id FROM page WHERE deleted_at IS NULL) ORDER BY (until_at IS NULL OR until_at > ?) DESC, from_at DESC LIMIT 1`,
    [hostId, path, revisionId, dateOf(at), dateOf(at)],
  );
  return row?.artifact ?? null;
}

/** Whether a page was deleted for ever: its names and plans are tombstones, what it said is gone. */
export async function isDeleted(db: Db, pageId: PageId): Promise<boolean> {
  return (await rowsOf(db, 'SELECT FROM page WHERE id = ? AND deleted_at IS NOT NULL', [pageId])).length > 0;
}

/** Whether a moment lies before what the portfolio keeps of what visitors got. */
export async function isPastKeeping(db: Db, portfolioId: PortfolioId, at: Instant): Promise<boolean> {
  const rows = await rowsOf(db, "SELECT FROM portfolio WHERE id = ? AND ? < now() - interval '1 day' * keep_days", [
    portfolioId,
    dateOf(at),
  ]);
  return rows.length > 0;
}

/** Since when a page is in the bin at a moment, and who put it there. */
export async function binStay(
  db: Db,
  pageId: PageId,
  at: Instant,
): Promise<{ since: Instant; by: string | null } | null> {
  const [row] = await rowsOf<{ since: Instant; by: string | null }>(
    db,
    `SELECT b.from_at AS since, a.name AS by FROM bin_stay b JOIN release r ON r.id = b.opened_by LEFT JOIN account a ON a.id = r.account_id
    WHERE b.page_id = ? AND b.during @> ?::timestamptz`,
    [pageId, dateOf(at)],
  );
  return row ?? null;
}

/** Of these pages those in the bin now and not deleted yet, locked, with their names. */
export function lockBinned(
  trx: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
): Promise<{ id: PageId; name: string }[]> {
  return rowsOf(
    trx,
    `SELECT p.id, p.name FROM page p WHERE p.portfolio_id = ? AND p.id = ANY(?) AND p.deleted_at IS NULL
    AND EXISTS (SELECT 1 FROM bin_stay b WHERE b.page_id = p.id AND b.until_at IS NULL) ORDER BY p.id FOR UPDATE`,
    [portfolioId, ids],
  );
}

/** Of these pages those that visitors get at a moment or will get later, by their names. */
export async function onTheAir(db: Db, ids: readonly PageId[], now: Instant): Promise<string[]> {
  const rows = await rowsOf<{ name: string }>(
    db,
    'SELECT DISTINCT p.name FROM page p JOIN period l ON l.page_id = p.id WHERE p.id = ANY(?) AND (l.until_at IS NULL OR l.until_at > ?) ORDER BY p.name',
    [ids, dateOf(now)],
  );
  return rows.map(({ name }) => name);
}

const EMPTY = JSON.stringify({ metadata: { title: '', description: '' }, blocks: [] });

/** Takes all that pages said; their names, plans and figures stay as their tombstones, so that *as of* stays true. */
export async function buryPages(
  trx: Db,
  ids: readonly PageId[],
  now: Instant,
  accountId: number | null,
): Promise<void> {
  for (const table of ['draft', 'draft_state', 'overridden', 'page_label', 'wall_zone'])
    await trx.raw('DELETE FROM ?? WHERE page_id = ANY(?)', [table, ids as never]);
  await trx.raw(
    'DELETE FROM revision_reference WHERE revision_id IN (SELECT id FROM revision WHERE page_id = ANY(?))',
    [ids as never],
  );
  await trx.raw('UPDATE revision SET document = ?::jsonb WHERE page_id = ANY(?)', [EMPTY, ids as never]);
  await rowsOf(trx, 'UPDATE page SET deleted_at = ?, deleted_by = ?, version = version + 1 WHERE id = ANY(?)', [
    dateOf(now),
    accountId,
    ids,
  ]);
}

export interface TemplateRow {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly notes: string;
  readonly site: string;
  readonly document: PageDocument;
}

/** Templates of a portfolio, or one of them. */
export function templatesOf(
  db: Db,
  portfolioId: PortfolioId,
  now: Instant,
  id: number | null = null,
): Promise<TemplateRow[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.version, p.template_notes AS notes, s.name AS site, d.document FROM page p JOIN draft d ON d.page_id = p.id
    JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz JOIN site s ON s.id = l.site_id
    WHERE p.portfolio_id = ? AND p.is_template AND p.deleted_at IS NULL ${id === null ? '' : 'AND p.id = ?'} ORDER BY p.name`,
    id === null ? [dateOf(now), portfolioId] : [dateOf(now), portfolioId, id],
  );
}

export function pagesOfTemplates(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ id: number; name: string; template_id: number }[]> {
  return rowsOf(
    db,
    'SELECT id, name, template_id FROM page WHERE portfolio_id = ? AND template_id IS NOT NULL AND deleted_at IS NULL ORDER BY name',
    [portfolioId],
  );
}

/** Makes a page a template or none, where it still has the version that was seen; gives the new version, or `null`. */
export async function saveTemplate(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
  template: { readonly version: number; readonly isTemplate: boolean; readonly notes: string },
): Promise<number | null> {
  const [row] = await rowsOf<{ version: number }>(
    trx,
    'UPDATE page SET is_template = ?, template_notes = ?, version = version + 1 WHERE portfolio_id = ? AND id = ? AND version = ? AND deleted_at IS NULL RETURNING version',
    [template.isTemplate, template.notes, portfolioId, id, template.version],
  );
  return row?.version ?? null;
}

export async function smallFile(db: Db, portfolioId: PortfolioId, pictureId: number): Promise<string | null> {
  const [row] = await rowsOf<{ hash: string }>(
    db,
    `SELECT v->>'hash' AS hash FROM picture p CROSS JOIN jsonb_array_elements(p.variants) AS v
    WHERE p.portfolio_id = ? AND p.id = ? ORDER BY (v->>'width')::int LIMIT 1`,
    [portfolioId, pictureId],
  );
  return row?.hash ?? null;
}

/** A page's name, `null` where there is no such page. */
export async function pageName(db: Db, portfolioId: PortfolioId, id: number): Promise<string | null> {
  return (await pageById(db, portfolioId, id))?.name ?? null;
}
