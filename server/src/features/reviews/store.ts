import type { RemarkKind } from '@domatium/contracts';
import type { PageDocument } from '@domatium/core/document';
import { groupBy, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface LinkRow {
  readonly id: number;
  readonly portfolio_id: PortfolioId;
  readonly name: string;
  readonly made_at: Instant;
  readonly made_by: string | null;
  readonly ends_at: Instant;
  readonly revoked_at: Instant | null;
  readonly password_hash: string | null;
  readonly site: string | null;
}

const LINK = `SELECT l.id, l.portfolio_id, l.name, l.made_at, a.name AS made_by, l.ends_at, l.revoked_at, l.password_hash, s.name AS site
  FROM private_link l LEFT JOIN account a ON a.id = l.made_by LEFT JOIN site s ON s.id = l.site_id`;

/** Links of a portfolio, newest first, without those that ended long ago. */
export function linksOf(db: Db, portfolioId: PortfolioId, since: Instant): Promise<LinkRow[]> {
  return rowsOf(
    db,
    `${LINK} WHERE l.portfolio_id = ? AND least(l.ends_at, l.revoked_at) > ? ORDER BY l.id DESC LIMIT 200`,
    [portfolioId, dateOf(since)],
  );
}

export async function linkByToken(db: Db, tokenHash: string): Promise<LinkRow | null> {
  const [row] = await rowsOf<LinkRow>(db, `${LINK} WHERE l.token_hash = ?`, [tokenHash]);
  return row ?? null;
}

/** The pages each of these links shows at an instant: those it names, or all that its site has then. */
export function pagesOfLinks(
  db: Db,
  linkIds: readonly number[],
  now: Instant,
): Promise<{ link_id: number; id: PageId; name: string; host: string; base_path: string; path: string }[]> {
  return rowsOf(
    db,
    `SELECT l.id AS link_id, p.id, p.name, h.name AS host, a.base_path, t.path
    FROM private_link l JOIN page p ON p.portfolio_id = l.portfolio_id AND p.deleted_at IS NULL
    JOIN placement t ON t.page_id = p.id AND t.during @> ?::timestamptz
    JOIN site_address a ON a.site_id = t.site_id AND a.is_primary AND a.during @> ?::timestamptz JOIN host h ON h.id = a.host_id
    WHERE l.id = ANY(?) AND (t.site_id = l.site_id OR EXISTS (SELECT 1 FROM private_link_page o WHERE o.link_id = l.id AND o.page_id = p.id))
      AND NOT EXISTS (SELECT 1 FROM bin_stay b WHERE b.page_id = p.id AND b.from_at <= ? AND (b.until_at IS NULL OR b.until_at > ?))
    ORDER BY h.name, t.path LIMIT 5000`,
    [dateOf(now), dateOf(now), linkIds, dateOf(now), dateOf(now)],
  );
}

export interface NewLink {
  readonly name: string;
  readonly tokenHash: string;
  readonly passwordHash: string | null;
  readonly siteId: number | null;
  readonly pages: readonly number[];
  readonly endsAt: Instant;
}

export async function insertLink(
  trx: Db,
  portfolioId: PortfolioId,
  link: NewLink,
  now: Instant,
  accountId: number | null,
): Promise<number> {
  const [row] = (await trx('private_link')
    .insert({
      portfolio_id: portfolioId,
      name: link.name,
      token_hash: link.tokenHash,
      password_hash: link.passwordHash,
      site_id: link.siteId,
      made_at: dateOf(now),
      made_by: accountId,
      ends_at: dateOf(link.endsAt),
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A private link was not written');
  await insertRows(
    trx,
    'private_link_page',
    [...new Set(link.pages)].map((page_id) => ({ portfolio_id: portfolioId, link_id: row.id, page_id })),
  );
  return row.id;
}

/** Of these, what is not of the portfolio. */
export async function foreignOf(
  db: Db,
  portfolioId: PortfolioId,
  table: 'page' | 'site',
  ids: readonly number[],
): Promise<number[]> {
  const rows = await rowsOf<{ id: number }>(db, `SELECT id FROM ${table} WHERE portfolio_id = ? AND id = ANY(?)`, [
    portfolioId,
    ids,
  ]);
  const own = new Set(rows.map(({ id }) => id));
  return ids.filter((id) => !own.has(id));
}

export async function revoke(trx: Db, portfolioId: PortfolioId, id: number, now: Instant): Promise<boolean> {
  const changed = await trx('private_link')
    .where({ id, portfolio_id: portfolioId, revoked_at: null })
    .update({ revoked_at: dateOf(now) });
  await trx('private_link_key').where({ link_id: id }).delete();
  return changed > 0;
}

export async function insertKey(trx: Db, linkId: number, keyHash: string, now: Instant): Promise<void> {
  await trx('private_link_key').insert({ link_id: linkId, key_hash: keyHash, made_at: dateOf(now) });
}

export async function hasKey(db: Db, linkId: number, keyHash: string): Promise<boolean> {
  const rows = await rowsOf(db, 'SELECT 1 FROM private_link_key WHERE link_id = ? AND key_hash = ?', [linkId, keyHash]);
  return rows.length > 0;
}

export async function portfolioOf(db: Db, id: PortfolioId): Promise<{ name: string; zone: string }> {
  const [row] = await rowsOf<{ name: string; zone: string }>(db, 'SELECT name, zone FROM portfolio WHERE id = ?', [id]);
  if (!row) throw new Error('A link without its portfolio');
  return row;
}

export interface RemarkRow {
  readonly id: number;
  readonly kind: RemarkKind;
  readonly text: string;
  readonly name: string;
  readonly link: string;
  readonly block_id: string | null;
  readonly revision_id: RevisionId;
  readonly revision: number;
  readonly document: PageDocument;
  readonly at: Instant;
  readonly settled_at: Instant | null;
  readonly settled_by: string | null;
  readonly answers: readonly AnswerRow[];
}

export interface AnswerRow {
  readonly id: number;
  readonly at: Instant;
  readonly name: string;
  readonly text: string;
  readonly isOurs: boolean;
}

/** What was said of a page, newest first. */
export async function remarksOf(db: Db, portfolioId: PortfolioId, pageId: PageId): Promise<RemarkRow[]> {
  const rows = await rowsOf<Omit<RemarkRow, 'answers'>>(
    db,
    `SELECT m.id, m.kind, m.text, m.name, l.name AS link, m.block_id, m.revision_id, r.number AS revision, r.document, m.at, m.settled_at, a.name AS settled_by
    FROM remark m JOIN revision r ON r.id = m.revision_id JOIN private_link l ON l.id = m.link_id LEFT JOIN account a ON a.id = m.settled_by
    WHERE m.portfolio_id = ? AND m.page_id = ? ORDER BY m.id DESC LIMIT 200`,
    [portfolioId, pageId],
  );
  const answers = await rowsOf<AnswerRow & { remark_id: number }>(
    db,
    `SELECT w.id, w.remark_id, w.at, coalesce(a.name, w.name) AS name, w.text, w.is_ours AS "isOurs"
    FROM remark_answer w LEFT JOIN account a ON a.id = w.account_id WHERE w.remark_id = ANY(?) ORDER BY w.id`,
    [rows.map(({ id }) => id)],
  );
  const byRemark = groupBy(answers, ({ remark_id }) => remark_id);
  return rows.map((row) => ({
    ...row,
    answers: (byRemark.get(row.id) ?? []).map(({ id, at, name, text, isOurs }) => ({ id, at, name, text, isOurs })),
  }));
}

/** How much was said through a link; on one page what is not settled. */
export async function countRemarks(db: Db, linkId: number, pageId: PageId | null = null): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    'SELECT count(*)::int AS n FROM remark WHERE link_id = ? AND (?::bigint IS NULL OR (page_id = ? AND settled_at IS NULL))',
    [linkId, pageId, pageId],
  );
  return row?.n ?? 0;
}

export async function insertRemark(
  trx: Db,
  portfolioId: PortfolioId,
  remark: {
    readonly pageId: PageId;
    readonly revisionId: RevisionId;
    readonly linkId: number;
    readonly blockId: string | null;
    readonly kind: RemarkKind;
    readonly text: string;
    readonly name: string;
  },
  now: Instant,
): Promise<number> {
  const [row] = (await trx('remark')
    .insert({
      portfolio_id: portfolioId,
      page_id: remark.pageId,
      revision_id: remark.revisionId,
      link_id: remark.linkId,
      block_id: remark.blockId,
      kind: remark.kind,
      text: remark.text,
      name: remark.name,
      at: dateOf(now),
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A remark was not written');
  return row.id;
}

/** Settles a remark; gives its page, `null` where there is no open one. */
export async function settle(
  trx: Db,
  portfolioId: PortfolioId,
  id: number,
  now: Instant,
  accountId: number | null,
): Promise<PageId | null> {
  const [row] = (await trx('remark')
    .where({ id, portfolio_id: portfolioId, settled_at: null })
    .update({ settled_at: dateOf(now), settled_by: accountId })
    .returning('page_id')) as { page_id: PageId }[];
  return row?.page_id ?? null;
}

/** When the live period of a page ends that is at an instant, or the next one; `null` where there is none, or no end. */
export async function endOfPage(db: Db, pageId: PageId, now: Instant): Promise<Instant | null> {
  const [row] = await rowsOf<{ until_at: Instant | null }>(
    db,
    "SELECT until_at FROM period WHERE page_id = ? AND coalesce(until_at, 'infinity') > ? ORDER BY from_at LIMIT 1",
    [pageId, dateOf(now)],
  );
  return row?.until_at ?? null;
}

/** The page a remark is on, and who is to hear of it: whoever made its link, and the page's owner; `null` where there is none. */
export async function remarkById(
  db: Db,
  portfolioId: PortfolioId,
  id: number,
): Promise<{ link_id: number; page_id: PageId; page: string; made_by: number | null; owner_id: number | null } | null> {
  const [row] = await rowsOf<{
    link_id: number;
    page_id: PageId;
    page: string;
    made_by: number | null;
    owner_id: number | null;
  }>(
    db,
    `SELECT m.link_id, m.page_id, p.name AS page, l.made_by, p.owner_id FROM remark m JOIN page p ON p.id = m.page_id
    JOIN private_link l ON l.id = m.link_id WHERE m.portfolio_id = ? AND m.id = ?`,
    [portfolioId, id],
  );
  return row ?? null;
}

export async function insertAnswer(
  trx: Db,
  answer: {
    readonly portfolio_id: PortfolioId;
    readonly remark_id: number;
    readonly account_id: number | null;
    readonly name: string;
    readonly is_ours: boolean;
    readonly text: string;
  },
  now: Instant,
): Promise<number> {
  const [row] = (await trx('remark_answer')
    .insert({ ...answer, at: dateOf(now) })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** How often was answered to remarks of a link by its readers. */
export async function countAnswers(db: Db, linkId: number): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    'SELECT count(*)::int AS n FROM remark_answer w JOIN remark m ON m.id = w.remark_id WHERE m.link_id = ? AND NOT w.is_ours',
    [linkId],
  );
  return row?.n ?? 0;
}

export async function nameOfAccount(db: Db, id: number | null): Promise<string> {
  const [row] = await rowsOf<{ name: string }>(db, 'SELECT name FROM account WHERE id = ?', [id]);
  return row?.name ?? '';
}
