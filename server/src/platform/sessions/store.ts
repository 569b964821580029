import type { MailWish, Role } from '@domatium/contracts';
import type { AccountId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';

export interface AccountRow {
  readonly mail_wish: MailWish;
  readonly id: AccountId;
  readonly email: string;
  readonly name: string;
  readonly password_hash: string;
  readonly totp_secret: string | null;
  readonly totp_at: Instant | null;
  readonly totp_step: number;
}

const ACCOUNT = 'mail_wish, id, email, name, password_hash, totp_secret, totp_at, totp_step';

export async function accountByEmail(db: Db, email: string): Promise<AccountRow | null> {
  const [row] = await rowsOf<AccountRow>(db, `SELECT ${ACCOUNT} FROM account WHERE email = ?`, [email]);
  return row ?? null;
}

export async function accountById(db: Db, id: AccountId): Promise<AccountRow | null> {
  const [row] = await rowsOf<AccountRow>(db, `SELECT ${ACCOUNT} FROM account WHERE id = ?`, [id]);
  return row ?? null;
}

export interface MembershipRow {
  readonly id: number;
  readonly name: string;
  readonly zone: string;
  readonly role: Role;
  /** Whether it lets in only those who gave a second factor. */
  readonly wants_factor: boolean;
}

export function membershipsOf(db: Db, account: AccountId): Promise<MembershipRow[]> {
  return rowsOf(
    db,
    'SELECT p.id, p.name, p.zone, m.role, p.wants_factor FROM membership m JOIN portfolio p ON p.id = m.portfolio_id WHERE m.account_id = ? ORDER BY p.id',
    [account],
  );
}

export interface SessionRow {
  readonly account_id: AccountId;
  readonly csrf: string;
  readonly email: string;
  readonly name: string;
  readonly mail_wish: MailWish;
  readonly factor_at: Instant | null;
  readonly seen_at: Instant | null;
  readonly id: number;
}

export async function sessionByHash(db: Db, hash: string, now: Instant): Promise<SessionRow | null> {
  const [row] = await rowsOf<SessionRow>(
    db,
    'SELECT s.id, s.account_id, s.csrf, s.factor_at, s.seen_at, a.email, a.name, a.mail_wish FROM session s JOIN account a ON a.id = s.account_id WHERE s.token_hash = ? AND s.expires_at > ?',
    [hash, dateOf(now)],
  );
  return row ?? null;
}

export interface NewSession {
  readonly hash: string;
  readonly account: AccountId;
  readonly csrf: string;
  readonly expires: Instant;
  readonly address: string;
  readonly agent: string;
  readonly hasFactor: boolean;
}

export async function insertSession(db: Db, session: NewSession, now: Instant): Promise<void> {
  await db('session').insert({
    token_hash: session.hash,
    account_id: session.account,
    csrf: session.csrf,
    created_at: dateOf(now),
    seen_at: dateOf(now),
    expires_at: dateOf(session.expires),
    address: session.address,
    agent: session.agent.slice(0, 300),
    factor_at: session.hasFactor ? dateOf(now) : null,
  });
  await db('session').where('expires_at', '<', dateOf(now)).delete();
}

export async function noteSeen(db: Db, id: number, now: Instant): Promise<void> {
  await db('session')
    .where({ id })
    .update({ seen_at: dateOf(now) });
}

export function sessionsOf(
  db: Db,
  account: AccountId,
  now: Instant,
): Promise<
  {
    id: number;
    token_hash: string;
    created_at: Instant;
    seen_at: Instant | null;
    address: string | null;
    agent: string | null;
  }[]
> {
  return rowsOf(
    db,
    'SELECT id, token_hash, created_at, seen_at, address, agent FROM session WHERE account_id = ? AND expires_at > ? ORDER BY coalesce(seen_at, created_at) DESC',
    [account, dateOf(now)],
  );
}

/** Ends sessions of an account: one, or all but one; gives how many there were. */
export function endSessions(
  db: Db,
  account: AccountId,
  which: { readonly id: number } | { readonly but: string | null },
): Promise<number> {
  const all = db('session').where({ account_id: account });
  if ('id' in which) return all.where({ id: which.id }).delete();
  return (which.but === null ? all : all.whereNot({ token_hash: which.but })).delete();
}

export async function deleteSession(db: Db, hash: string): Promise<void> {
  await db('session').where({ token_hash: hash }).delete();
}

/**
 * Counts a try in one step. Gives `null` where it may be made, and otherwise for how many milliseconds one has to wait;
 * tries of more than an hour ago are forgotten.
 */
export async function countTry(
  db: Db,
  key: string,
  free: number,
  longest: number,
  now: Instant,
): Promise<number | null> {
  const wait = `least(?, power(2, greatest(0, least(20, f.failures - ?)))) * interval '1 second'`;
  const counted = await rowsOf(
    db,
    `INSERT INTO sign_in_failure AS f (key, failures, last_at) VALUES (?, 1, ?)
     ON CONFLICT (key) DO UPDATE SET failures = CASE WHEN f.last_at < excluded.last_at - interval '1 hour' THEN 1 ELSE f.failures + 1 END, last_at = excluded.last_at
     WHERE f.last_at < excluded.last_at - interval '1 hour' OR f.failures < ? OR f.last_at + ${wait} <= excluded.last_at RETURNING 1`,
    [key, dateOf(now), free, longest, free],
  );
  if (counted.length) return null;
  const [row] = await rowsOf<{ until: Instant }>(
    db,
    `SELECT f.last_at + ${wait} AS until FROM sign_in_failure f WHERE key = ?`,
    [longest, free, key],
  );
  return row ? Math.max(0, row.until - now) : 0;
}

export async function forgetTries(db: Db, first: string, others: readonly string[]): Promise<void> {
  await db('sign_in_failure').where({ key: first }).delete();
  await db('sign_in_failure')
    .whereIn('key', [...others])
    .where('failures', '>', 0)
    .decrement('failures', 1);
}

/** Whether somebody signed in from this address before. */
export async function isKnownPlace(db: Db, account: AccountId, address: string): Promise<boolean> {
  const rows = await rowsOf(db, 'SELECT FROM sign_in_place WHERE account_id = ? AND address = ?', [account, address]);
  return rows.length > 0;
}

export async function notePlace(db: Db, account: AccountId, address: string, now: Instant): Promise<void> {
  await rowsOf(
    db,
    'INSERT INTO sign_in_place (account_id, address, last_at) VALUES (?, ?, ?) ON CONFLICT (account_id, address) DO UPDATE SET last_at = excluded.last_at',
    [account, address, dateOf(now)],
  );
  await rowsOf(
    db,
    'DELETE FROM sign_in_place WHERE account_id = ? AND address NOT IN (SELECT address FROM sign_in_place WHERE account_id = ? ORDER BY last_at DESC LIMIT 20)',
    [account, account],
  );
}

/** The account of an address, `null` where there is none. */
export async function accountIdByEmail(db: Db, email: string): Promise<AccountId | null> {
  return (await accountByEmail(db, email))?.id ?? null;
}

/** Uses a step of an authenticator: each counts once, also of two at the same time. */
export async function useStep(db: Db, id: AccountId, step: number): Promise<boolean> {
  return (await db('account').where({ id }).where('totp_step', '<', step).update({ totp_step: step })) > 0;
}

export async function useRecoveryCode(db: Db, id: AccountId, hash: string): Promise<boolean> {
  return (await db('recovery_code').where({ account_id: id, code_hash: hash }).delete()) > 0;
}

export async function setPassword(db: Db, id: AccountId, passwordHash: string): Promise<void> {
  await db('account').where({ id }).update({ password_hash: passwordHash });
}

/** Keeps a secret that is not confirmed yet; one that is confirmed stays as it is. */
export async function beginFactor(db: Db, id: AccountId, secret: string): Promise<boolean> {
  return (await db('account').where({ id, totp_at: null }).update({ totp_secret: secret, totp_step: 0 })) > 0;
}

export async function confirmFactor(
  db: Db,
  id: AccountId,
  step: number,
  codes: readonly string[],
  now: Instant,
): Promise<void> {
  await db('account')
    .where({ id })
    .update({ totp_at: dateOf(now), totp_step: step });
  await db('recovery_code').where({ account_id: id }).delete();
  await db('recovery_code').insert(codes.map((code_hash) => ({ account_id: id, code_hash })));
}

export async function endFactor(db: Db, id: AccountId): Promise<void> {
  await db('account').where({ id }).update({ totp_secret: null, totp_at: null, totp_step: 0 });
  await db('recovery_code').where({ account_id: id }).delete();
  await db('session').where({ account_id: id }).update({ factor_at: null });
}

export async function noteFactor(db: Db, tokenHash: string, now: Instant): Promise<void> {
  await db('session')
    .where({ token_hash: tokenHash })
    .update({ factor_at: dateOf(now) });
}

export async function countRecoveryCodes(db: Db, id: AccountId): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(db, 'SELECT count(*)::int AS n FROM recovery_code WHERE account_id = ?', [
    id,
  ]);
  return row?.n ?? 0;
}

export async function insertReset(db: Db, id: AccountId, hash: string, now: Instant, expires: Instant): Promise<void> {
  await db('password_reset').where({ account_id: id }).delete();
  await db('password_reset').insert({
    token_hash: hash,
    account_id: id,
    made_at: dateOf(now),
    expires_at: dateOf(expires),
  });
}

/** The account of an unused link for a new password, and uses it. */
export async function useReset(db: Db, hash: string, now: Instant): Promise<AccountId | null> {
  const [row] = await rowsOf<{ account_id: AccountId }>(
    db,
    'UPDATE password_reset SET used_at = ? WHERE token_hash = ? AND used_at IS NULL AND expires_at > ? RETURNING account_id',
    [dateOf(now), hash, dateOf(now)],
  );
  return row?.account_id ?? null;
}

export async function hasReset(db: Db, hash: string, now: Instant): Promise<boolean> {
  const rows = await rowsOf(
    db,
    'SELECT FROM password_reset WHERE token_hash = ? AND used_at IS NULL AND expires_at > ?',
    [hash, dateOf(now)],
  );
  return rows.length > 0;
}

export async function setAccount(
  db: Db,
  id: AccountId,
  { name, mailWish }: { readonly name: string; readonly mailWish: MailWish },
): Promise<void> {
  await db('account').where({ id }).update({ name, mail_wish: mailWish });
}
