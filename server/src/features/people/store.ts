import type { PeopleView, Role, SiteRules } from '@domatium/contracts';
import { SEVERITIES, takeAsSites } from '../../heart/checks/index.js';
import type { AccountId, PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export function membersOf(db: Db, portfolioId: PortfolioId, now: Instant): Promise<PeopleView['members'][number][]> {
  return rowsOf(
    db,
    `SELECT a.id, a.name, a.email, m.role, a.totp_at IS NOT NULL AS "hasFactor",
       (SELECT count(*)::int FROM private_link l WHERE l.portfolio_id = m.portfolio_id AND l.made_by = a.id AND l.revoked_at IS NULL AND l.ends_at > ?) AS links
     FROM membership m JOIN account a ON a.id = m.account_id WHERE m.portfolio_id = ? ORDER BY a.name`,
    [dateOf(now), portfolioId],
  );
}

export function openInvitations(
  db: Db,
  portfolioId: PortfolioId,
  now: Instant,
): Promise<PeopleView['invitations'][number][]> {
  return rowsOf(
    db,
    `SELECT i.id, i.email, i.role, a.name AS "madeBy", i.expires_at AS "expiresAt" FROM invitation i LEFT JOIN account a ON a.id = i.made_by
    WHERE i.portfolio_id = ? AND i.used_at IS NULL AND i.revoked_at IS NULL AND i.expires_at > ? ORDER BY i.id`,
    [portfolioId, dateOf(now)],
  );
}

export interface NewInvitation {
  readonly portfolioId: PortfolioId | null;
  readonly email: string | null;
  readonly role: Role;
  readonly tokenHash: string;
  readonly expiresAt: Instant;
}

export async function insertInvitation(
  trx: Db,
  { portfolioId, email, role, tokenHash, expiresAt }: NewInvitation,
  now: Instant,
  accountId: number | null,
): Promise<number> {
  const [row] = (await trx('invitation')
    .insert({
      portfolio_id: portfolioId,
      email,
      role,
      token_hash: tokenHash,
      made_at: dateOf(now),
      made_by: accountId,
      expires_at: dateOf(expiresAt),
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('An invitation was not written');
  return row.id;
}

export interface InvitationRow {
  readonly id: number;
  readonly portfolio_id: PortfolioId | null;
  readonly portfolio: string | null;
  readonly email: string | null;
  readonly role: Role;
  readonly expires_at: Instant;
  readonly used_at: Instant | null;
  readonly revoked_at: Instant | null;
}

/** The invitation of a token, locked to the end of the transaction. */
export async function invitationByHash(trx: Db, tokenHash: string): Promise<InvitationRow | null> {
  const [row] = await rowsOf<InvitationRow>(
    trx,
    `SELECT i.id, i.portfolio_id, p.name AS portfolio, i.email, i.role, i.expires_at, i.used_at, i.revoked_at
    FROM invitation i LEFT JOIN portfolio p ON p.id = i.portfolio_id WHERE i.token_hash = ? FOR UPDATE OF i`,
    [tokenHash],
  );
  return row ?? null;
}

export async function noteUsed(trx: Db, id: number, accountId: AccountId, now: Instant): Promise<void> {
  await trx('invitation')
    .where({ id })
    .update({ used_at: dateOf(now), used_by: accountId });
}

export async function revoke(db: Db, portfolioId: PortfolioId, id: number, now: Instant): Promise<boolean> {
  const changed = await db('invitation')
    .where({ portfolio_id: portfolioId, id, used_at: null, revoked_at: null })
    .update({ revoked_at: dateOf(now) });
  return changed > 0;
}

/** Ends invitations of an installation that nobody used: each start makes a new one. */
export async function revokeFirst(db: Db, now: Instant): Promise<void> {
  await db('invitation')
    .where({ portfolio_id: null, used_at: null, revoked_at: null })
    .update({ revoked_at: dateOf(now) });
}

export async function isEmpty(db: Db): Promise<boolean> {
  return (await rowsOf(db, 'SELECT 1 FROM account LIMIT 1')).length === 0;
}

export async function insertAccount(
  trx: Db,
  account: { readonly email: string; readonly name: string; readonly passwordHash: string },
): Promise<AccountId> {
  const [row] = (await trx('account')
    .insert({ email: account.email, name: account.name, password_hash: account.passwordHash })
    .returning('id')) as { id: AccountId }[];
  if (!row) throw new Error('An account was not written');
  return row.id;
}

/** Makes somebody a member; one who is a member already keeps the role that may more. */
export async function addMember(trx: Db, portfolioId: PortfolioId, accountId: AccountId, role: Role): Promise<void> {
  await rowsOf(
    trx,
    `INSERT INTO membership (portfolio_id, account_id, role) VALUES (?, ?, ?) ON CONFLICT (account_id, portfolio_id) DO UPDATE
    SET role = CASE WHEN array_position(ARRAY['owner', 'publisher', 'author', 'reader'], excluded.role) < array_position(ARRAY['owner', 'publisher', 'author', 'reader'], membership.role) THEN excluded.role ELSE membership.role END`,
    [portfolioId, accountId, role],
  );
}

/** Roles of all members, locked: two who change them at once take turns. */
export function lockMembers(trx: Db, portfolioId: PortfolioId): Promise<{ account_id: AccountId; role: Role }[]> {
  return rowsOf(trx, 'SELECT account_id, role FROM membership WHERE portfolio_id = ? ORDER BY account_id FOR UPDATE', [
    portfolioId,
  ]);
}

export async function setRole(trx: Db, portfolioId: PortfolioId, accountId: number, role: Role): Promise<void> {
  await trx('membership').where({ portfolio_id: portfolioId, account_id: accountId }).update({ role });
}

export async function removeMember(trx: Db, portfolioId: PortfolioId, accountId: number): Promise<void> {
  await trx('membership').where({ portfolio_id: portfolioId, account_id: accountId }).delete();
  await trx('session').where({ account_id: accountId }).delete();
}

export async function insertPortfolio(
  trx: Db,
  { name, slug, zone }: { readonly name: string; readonly slug: string; readonly zone: string },
): Promise<PortfolioId> {
  const [row] = (await trx('portfolio').insert({ name, slug, zone }).returning('id')) as { id: PortfolioId }[];
  if (!row) throw new Error('A portfolio was not written');
  return row.id;
}

export async function slugsLike(db: Db, slug: string): Promise<Set<string>> {
  const rows = await rowsOf<{ slug: string }>(db, "SELECT slug FROM portfolio WHERE slug = ? OR slug LIKE ? || '-%'", [
    slug,
    slug,
  ]);
  return new Set(rows.map((row) => row.slug));
}

export async function hostOwner(db: Db, name: string): Promise<{ id: number; portfolio_id: PortfolioId } | null> {
  const [row] = await rowsOf<{ id: number; portfolio_id: PortfolioId }>(
    db,
    'SELECT id, portfolio_id FROM host WHERE name = ?',
    [name],
  );
  return row ?? null;
}

export async function ownHost(db: Db, portfolioId: PortfolioId): Promise<{ id: number; name: string } | null> {
  const [row] = await rowsOf<{ id: number; name: string }>(
    db,
    'SELECT id, name FROM host WHERE portfolio_id = ? AND is_own ORDER BY id LIMIT 1',
    [portfolioId],
  );
  return row ?? null;
}

export async function insertHost(
  trx: Db,
  portfolioId: PortfolioId,
  host: { readonly name: string; readonly domain: string | null; readonly isOwn: boolean },
): Promise<number> {
  let domainId: number | null = null;
  if (host.domain) {
    const [row] = await rowsOf<{ id: number }>(
      trx,
      'INSERT INTO domain (portfolio_id, name) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET name = excluded.name WHERE domain.portfolio_id = excluded.portfolio_id RETURNING id',
      [portfolioId, host.domain],
    );
    domainId = row?.id ?? null;
  }
  const [row] = (await trx('host')
    .insert({ portfolio_id: portfolioId, name: host.name, domain_id: domainId, is_own: host.isOwn })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A host was not written');
  return row.id;
}

export async function insertSite(
  trx: Db,
  portfolioId: PortfolioId,
  site: { readonly name: string; readonly theme: string; readonly hostId: number; readonly basePath: string },
  now: Instant,
): Promise<number> {
  const [row] = (await trx('site')
    .insert({ portfolio_id: portfolioId, name: site.name, brand: site.name, theme: site.theme })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A site was not written');
  await trx('site_address').insert({
    portfolio_id: portfolioId,
    site_id: row.id,
    host_id: site.hostId,
    base_path: site.basePath,
    is_primary: true,
    from_at: dateOf(now),
  });
  return row.id;
}

export function rulesOfSites(db: Db, portfolioId: PortfolioId): Promise<({ id: number; name: string } & SiteRules)[]> {
  return rowsOf(
    db,
    `SELECT id, name, approvals, ${SEVERITIES} AS severities FROM site s WHERE portfolio_id = ? ORDER BY name`,
    [portfolioId],
  );
}

/** Renames a site; gives the name it had, `null` where it is not of the portfolio. */
export async function renameSite(
  trx: Db,
  portfolioId: PortfolioId,
  siteId: number,
  name: string,
): Promise<string | null> {
  const [row] = await rowsOf<{ name: string }>(
    trx,
    'UPDATE site s SET name = ? FROM (SELECT id, name FROM site WHERE portfolio_id = ? AND id = ? FOR UPDATE) was WHERE s.id = was.id RETURNING was.name',
    [name, portfolioId, siteId],
  );
  return row?.name ?? null;
}

/** What was found on its pages is taken by the new rules at once. */
export async function saveSiteRules(
  trx: Db,
  portfolioId: PortfolioId,
  siteId: number,
  { approvals, severities }: SiteRules,
): Promise<boolean> {
  const known = trx('site').where({ id: siteId, portfolio_id: portfolioId });
  if (!(await known.update({ approvals }))) return false;
  await trx('site_severity').where({ site_id: siteId }).delete();
  const lines = Object.entries(severities).map(([code, taken]) => ({ code, taken }));
  await insertRows(
    trx,
    'site_severity',
    lines.map((line) => ({ portfolio_id: portfolioId, site_id: siteId, ...line })),
  );
  const pages = await rowsOf<{ page_id: PageId }>(
    trx,
    'SELECT DISTINCT page_id FROM placement WHERE portfolio_id = ? AND site_id = ?',
    [portfolioId, siteId],
  );
  await takeAsSites(
    trx,
    pages.map(({ page_id }) => page_id),
  );
  return true;
}

/** What the portfolio asks of its people, and for how long it keeps what visitors got. */
export async function rulesOf(
  db: Db,
  portfolioId: PortfolioId,
): Promise<{ readonly wantsFactor: boolean; readonly keepDays: number | null }> {
  const [row] = await rowsOf<{ wants_factor: boolean; keep_days: number | null }>(
    db,
    'SELECT wants_factor, keep_days FROM portfolio WHERE id = ?',
    [portfolioId],
  );
  return { wantsFactor: row?.wants_factor ?? false, keepDays: row?.keep_days ?? null };
}

/** Ends the open private links somebody made, or gives them to somebody else; gives how many there were. */
export function settleLinks(
  trx: Db,
  portfolioId: PortfolioId,
  accountId: number,
  heir: number | null,
  now: Instant,
): Promise<number> {
  return trx('private_link')
    .where({ portfolio_id: portfolioId, made_by: accountId, revoked_at: null })
    .where('ends_at', '>', dateOf(now))
    .update(heir === null ? { revoked_at: dateOf(now) } : { made_by: heir });
}

/** The portfolio that holds a host, or the nearest domain or host above it; `null` where nobody does. */
export async function domainHolder(db: Db, host: string): Promise<PortfolioId | null> {
  const labels = host.split('.');
  const above = labels.map((_, index) => labels.slice(index).join('.'));
  const [row] = await rowsOf<{ portfolio_id: PortfolioId }>(
    db,
    `SELECT portfolio_id FROM (SELECT name, portfolio_id FROM domain UNION ALL SELECT name, portfolio_id FROM host) d
     WHERE name = ANY(?) ORDER BY length(name) DESC LIMIT 1`,
    [above],
  );
  return row?.portfolio_id ?? null;
}

export async function insertConsent(
  trx: Db,
  portfolioId: PortfolioId,
  consent: { readonly host: string; readonly tokenHash: string },
  now: Instant,
  accountId: number | null,
): Promise<number> {
  const [row] = (await trx('host_consent')
    .insert({
      portfolio_id: portfolioId,
      host: consent.host,
      token_hash: consent.tokenHash,
      made_at: dateOf(now),
      made_by: accountId,
    })
    .returning('id')) as { id: number }[];
  return row?.id ?? 0;
}

/** Uses a consent to a host that the holder of the domain above it gave; gives whether there was one. */
export async function useConsent(
  trx: Db,
  holder: PortfolioId,
  host: string,
  tokenHash: string,
  now: Instant,
): Promise<boolean> {
  const used = await trx('host_consent')
    .where({ portfolio_id: holder, host, token_hash: tokenHash, used_at: null })
    .update({ used_at: dateOf(now) });
  return used > 0;
}

/** How many invitations somebody, and a portfolio, made since an instant. */
export async function countInvitations(db: Db, portfolioId: PortfolioId, since: Instant): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    'SELECT count(*)::int AS n FROM invitation WHERE portfolio_id = ? AND made_at > ?',
    [portfolioId, dateOf(since)],
  );
  return row?.n ?? 0;
}

export async function countOwned(db: Db, accountId: number): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    "SELECT count(*)::int AS n FROM membership WHERE account_id = ? AND role = 'owner'",
    [accountId],
  );
  return row?.n ?? 0;
}
