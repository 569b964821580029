import type { Role } from '@domatium/contracts';
import type { AccountId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../database/context.js';

export interface AccountRow {
  readonly id: AccountId;
  readonly email: string;
  readonly name: string;
  readonly password_hash: string;
}

export async function accountByEmail(db: Db, email: string): Promise<AccountRow | null> {
  const [row] = await rowsOf<AccountRow>(db, 'SELECT id, email, name, password_hash FROM account WHERE email = ?', [
    email,
  ]);
  return row ?? null;
}

export interface MembershipRow {
  readonly id: number;
  readonly name: string;
  readonly zone: string;
  readonly role: Role;
}

export function membershipsOf(db: Db, account: AccountId): Promise<MembershipRow[]> {
  return rowsOf(
    db,
    'SELECT p.id, p.name, p.zone, m.role FROM membership m JOIN portfolio p ON p.id = m.portfolio_id WHERE m.account_id = ? ORDER BY p.id',
    [account],
  );
}

export interface SessionRow {
  readonly account_id: AccountId;
  readonly csrf: string;
  readonly email: string;
  readonly name: string;
}

export async function sessionByHash(db: Db, hash: string, now: Instant): Promise<SessionRow | null> {
  const [row] = await rowsOf<SessionRow>(
    db,
    'SELECT s.account_id, s.csrf, a.email, a.name FROM session s JOIN account a ON a.id = s.account_id WHERE s.token_hash = ? AND s.expires_at > ?',
    [hash, dateOf(now)],
  );
  return row ?? null;
}

export async function insertSession(
  db: Db,
  hash: string,
  account: AccountId,
  csrf: string,
  now: Instant,
  expires: Instant,
): Promise<void> {
  await db('session').insert({
    token_hash: hash,
    account_id: account,
    csrf,
    created_at: dateOf(now),
    expires_at: dateOf(expires),
  });
  await db('session').where('expires_at', '<', dateOf(now)).delete();
}

export async function deleteSession(db: Db, hash: string): Promise<void> {
  await db('session').where({ token_hash: hash }).delete();
}

export async function failuresOf(db: Db, keys: readonly string[]): Promise<{ failures: number; last_at: Instant }[]> {
  return rowsOf(db, 'SELECT failures, last_at FROM sign_in_failure WHERE key = ANY(?)', [keys]);
}

export async function noteFailure(db: Db, keys: readonly string[], now: Instant): Promise<void> {
  for (const key of keys)
    await db.raw(
      `INSERT INTO sign_in_failure (key, failures, last_at) VALUES (?, 1, ?)
       ON CONFLICT (key) DO UPDATE SET failures = CASE WHEN sign_in_failure.last_at < excluded.last_at - interval '1 hour' THEN 1 ELSE sign_in_failure.failures + 1 END, last_at = excluded.last_at`,
      [key, dateOf(now)],
    );
}

export async function forgetFailures(db: Db, keys: readonly string[]): Promise<void> {
  await db('sign_in_failure')
    .whereIn('key', [...keys])
    .delete();
}

/** The account of an address, `null` where there is none. */
export async function accountIdByEmail(db: Db, email: string): Promise<AccountId | null> {
  return (await accountByEmail(db, email))?.id ?? null;
}
