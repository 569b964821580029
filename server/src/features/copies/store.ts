import type { SiteRules } from '@domatium/contracts';
import { SEVERITIES } from '../../heart/checks/index.js';
import type { CopyPreview } from '@domatium/contracts';
import type { PageDocument } from '@domatium/core/document';
import type { PageId, PictureId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface SourcePage {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly campaign_id: number | null;
  readonly template_id: number | null;
  readonly site_id: number;
  readonly path: string;
  readonly document: PageDocument;
}

/** Pages as they are copied: their drafts, and where they lie now. */
export function sourcePages(
  db: Db,
  portfolioId: PortfolioId,
  ids: readonly number[],
  now: Instant,
): Promise<SourcePage[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.role, p.campaign_id, p.template_id, l.site_id, l.path, d.document FROM page p JOIN draft d ON d.page_id = p.id
    JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    WHERE p.portfolio_id = ? AND p.id = ANY(?) AND p.deleted_at IS NULL ORDER BY p.id`,
    [dateOf(now), portfolioId, ids],
  );
}

export interface SourcePicture {
  readonly id: PictureId;
  readonly name: string;
  readonly description: string;
  readonly width: number;
  readonly height: number;
  readonly variants: unknown;
}

export function picturesById(db: Db, portfolioId: PortfolioId, ids: readonly number[]): Promise<SourcePicture[]> {
  return rowsOf(
    db,
    'SELECT id, name, description, width, height, variants FROM picture WHERE portfolio_id = ? AND id = ANY(?)',
    [portfolioId, ids],
  );
}

/** The same pictures in another portfolio: those it has already, file by file, and new ones for the others. */
export async function bringPictures(
  trx: Db,
  portfolioId: PortfolioId,
  pictures: readonly SourcePicture[],
): Promise<Map<PictureId, PictureId>> {
  const brought = new Map<PictureId, PictureId>();
  for (const { id, name, description, width, height, variants } of pictures) {
    const json = JSON.stringify(variants);
    const [known] = await rowsOf<{ id: PictureId }>(
      trx,
      'SELECT id FROM picture WHERE portfolio_id = ? AND variants = ?::jsonb ORDER BY id LIMIT 1',
      [portfolioId, json],
    );
    const [made] = known
      ? [known]
      : ((await trx('picture')
          .insert({ portfolio_id: portfolioId, name, description, width, height, variants: json })
          .returning('id')) as { id: PictureId }[]);
    if (made) brought.set(id, made.id);
  }
  return brought;
}

export interface NewCopy {
  readonly name: string;
  readonly role: string;
  readonly campaignId: number | null;
  readonly templateId: number | null;
  readonly siteId: number;
  readonly path: string;
  readonly placementId: number;
}

/** Writes pages and where they lie; their drafts follow when it is known what they link to. */
export async function insertCopies(
  trx: Db,
  portfolioId: PortfolioId,
  copies: readonly NewCopy[],
  now: Instant,
  accountId: number | null,
): Promise<PageId[]> {
  const ids: PageId[] = [];
  for (let first = 0; first < copies.length; first += 500) {
    const rows = (await trx('page')
      .insert(
        copies.slice(first, first + 500).map(({ name, role, campaignId, templateId }) => ({
          portfolio_id: portfolioId,
          name,
          role,
          campaign_id: campaignId,
          template_id: templateId,
          owner_id: accountId,
          created_at: dateOf(now),
          changed_at: dateOf(now),
          changed_by: accountId,
        })),
      )
      .returning('id')) as { id: PageId }[];
    ids.push(...rows.map(({ id }) => id));
  }
  await insertRows(
    trx,
    'placement',
    copies.map(({ placementId, siteId, path }, index) => ({
      id: placementId,
      portfolio_id: portfolioId,
      page_id: ids[index],
      site_id: siteId,
      path,
      from_at: dateOf(now),
    })),
  );
  return ids;
}

export async function insertDrafts(
  trx: Db,
  portfolioId: PortfolioId,
  drafts: readonly (readonly [PageId, PageDocument])[],
  now: Instant,
  accountId: number | null,
): Promise<void> {
  await insertRows(
    trx,
    'draft',
    drafts.map(([page_id, document]) => ({
      page_id,
      portfolio_id: portfolioId,
      document,
      changed_at: dateOf(now),
      changed_by: accountId,
    })),
  );
}

/** Copies carry the labels of what they are copied from; a label a portfolio has not yet is made. */
export async function copyLabels(
  trx: Db,
  portfolioId: PortfolioId,
  pairs: readonly (readonly [from: PageId, to: PageId])[],
): Promise<void> {
  const of = [pairs.map(([from]) => from), pairs.map(([, to]) => to)];
  const labelled = `FROM unnest(?::bigint[], ?::bigint[]) AS c (old, new) JOIN page_label x ON x.page_id = c.old JOIN label l ON l.id = x.label_id`;
  await rowsOf(
    trx,
    `INSERT INTO label (portfolio_id, name) SELECT DISTINCT ?::bigint, l.name ${labelled} ON CONFLICT DO NOTHING`,
    [portfolioId, ...of],
  );
  await rowsOf(
    trx,
    `INSERT INTO page_label (portfolio_id, page_id, label_id) SELECT ?::bigint, c.new, t.id ${labelled} JOIN label t ON t.portfolio_id = ? AND t.name = l.name`,
    [portfolioId, ...of, portfolioId],
  );
}

/** Names of the labels that any of these pages has. */
export async function labelsOf(db: Db, pageIds: readonly PageId[]): Promise<string[]> {
  const rows = await rowsOf<{ name: string }>(
    db,
    'SELECT DISTINCT l.name FROM page_label x JOIN label l ON l.id = x.label_id WHERE x.page_id = ANY(?)',
    [pageIds],
  );
  return rows.map(({ name }) => name);
}

export async function campaignExists(db: Db, portfolioId: PortfolioId, id: number): Promise<boolean> {
  return (await rowsOf(db, 'SELECT 1 FROM campaign WHERE portfolio_id = ? AND id = ?', [portfolioId, id])).length > 0;
}

/** What of the stock and of the files copies in another portfolio go without, with how many of them use it. */
export async function namesLeftBehind(
  db: Db,
  portfolioId: PortfolioId,
  stock: readonly (readonly [id: number, usedBy: number])[],
  files: readonly (readonly [id: number, usedBy: number])[],
): Promise<CopyPreview['leftBehind']> {
  const rows = await rowsOf<{ id: number; kind: CopyPreview['leftBehind'][number]['kind']; name: string }>(
    db,
    `SELECT id, kind, name FROM stock_item WHERE portfolio_id = ? AND id = ANY(?)
    UNION ALL SELECT id, 'file', name FROM stored_file WHERE portfolio_id = ? AND id = ANY(?) ORDER BY name`,
    [portfolioId, stock.map(([id]) => id), portfolioId, files.map(([id]) => id)],
  );
  const usedBy = (kind: string, id: number) => (kind === 'file' ? files : stock).find(([one]) => one === id)?.[1] ?? 0;
  return rows.map(({ id, kind, name }) => ({ kind, name, usedBy: usedBy(kind, id) }));
}

/** As many pages as a site may have to be copied with them in one go. */
export const MOST_OF_SITE = 1000;

/** Pages of a site that are live or will be, in the order of their identities; one more than the most that are copied. */
export async function pagesOfSite(db: Db, portfolioId: PortfolioId, siteId: number, now: Instant): Promise<PageId[]> {
  const rows = await rowsOf<{ id: PageId }>(
    db,
    `SELECT p.id FROM page p JOIN placement l ON l.page_id = p.id AND l.during @> ?::timestamptz
    WHERE p.portfolio_id = ? AND l.site_id = ? AND p.deleted_at IS NULL
      AND EXISTS (SELECT FROM period x WHERE x.page_id = p.id AND coalesce(x.until_at, 'infinity') > ?)
    ORDER BY p.id LIMIT ${MOST_OF_SITE + 1}`,
    [dateOf(now), portfolioId, siteId, dateOf(now)],
  );
  return rows.map(({ id }) => id);
}

export async function siteRules(db: Db, siteId: number): Promise<SiteRules> {
  const [row] = await rowsOf<SiteRules>(db, `SELECT approvals, ${SEVERITIES} AS severities FROM site s WHERE id = ?`, [
    siteId,
  ]);
  return row ?? { approvals: 0, severities: {} };
}

/** The host a site lies on last. */
export async function hostOfSite(db: Db, siteId: number): Promise<string> {
  const [row] = await rowsOf<{ name: string }>(
    db,
    'SELECT h.name FROM site_address a JOIN host h ON h.id = a.host_id WHERE a.site_id = ? AND a.is_primary ORDER BY a.from_at DESC LIMIT 1',
    [siteId],
  );
  return row?.name ?? '';
}

/** What a thing of the stock is as a draft. */
export async function saveDraft(
  trx: Db,
  itemId: number,
  draft: unknown,
  { at, by }: { readonly at: Instant; readonly by: number | null },
): Promise<void> {
  await rowsOf(
    trx,
    'UPDATE stock_item SET draft = ?::jsonb, draft_version = draft_version + 1, changed_at = ?, changed_by = ? WHERE id = ?',
    [JSON.stringify(draft), dateOf(at), by, itemId],
  );
}
