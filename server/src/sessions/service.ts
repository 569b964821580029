import { createHash, randomBytes } from 'node:crypto';
import type { Role, SessionView } from '@domatium/contracts';
import type { AccountId } from '@domatium/core/plan';
import { DAY, later } from '@domatium/core/time';
import { hash, verify } from '@node-rs/argon2';
import type { Context } from '../database/context.js';
import { InvalidError } from '../http/problem.js';
import * as store from './store.js';
import { Throttle } from './throttle.js';

/** Who a request comes from, and where they may work. */
export interface SignedIn {
  readonly account: AccountId;
  readonly name: string;
  readonly email: string;
  readonly csrf: string;
  readonly memberships: readonly store.MembershipRow[];
  readonly roles: ReadonlyMap<number, Role>;
}

export const SESSION_DAYS = 14;

export const hashToken = (token: string) => createHash('sha256').update(token).digest('hex');

/** Argon2id with the package's defaults (19 MiB, two passes: OWASP's first choice). */
export const hashPassword = (password: string) => hash(password);

// Verified where there is no such account, so that both cases take as long.
const nobody = hashPassword(randomBytes(16).toString('hex'));

/** Opens a session; gives its token for the cookie. Refuses a wrong pair, slower with every failure. */
export async function signIn(
  context: Context,
  email: string,
  password: string,
  from: string,
): Promise<{ token: string; view: SessionView }> {
  const { database, now } = context;
  const throttle = new Throttle(database, [`account ${email}`, `from ${from}`], now);
  await throttle.refuse();
  const account = await store.accountByEmail(database, email);
  const isRight = await verify(account?.password_hash ?? (await nobody), password);
  if (!account || !isRight) {
    await throttle.note();
    throw new InvalidError([{ path: 'password', message: 'That e-mail address and password don’t belong together.' }]);
  }
  await throttle.forget();
  const token = randomBytes(32).toString('base64url');
  const csrf = randomBytes(24).toString('base64url');
  await store.insertSession(database, hashToken(token), account.id, csrf, now, later(now, SESSION_DAYS * DAY));
  const signedIn = await signedInOf(context, {
    account_id: account.id,
    csrf,
    name: account.name,
    email: account.email,
  });
  return { token, view: viewOf(context, signedIn) };
}

/** Who a session's token belongs to, or `null`. Roles are read anew each time, so that a change holds at once. */
export async function whoIs(context: Context, token: string | null): Promise<SignedIn | null> {
  if (!token) return null;
  const row = await store.sessionByHash(context.database, hashToken(token), context.now);
  return row && signedInOf(context, row);
}

async function signedInOf({ database }: Context, row: store.SessionRow): Promise<SignedIn> {
  const memberships = await store.membershipsOf(database, row.account_id);
  return {
    account: row.account_id,
    name: row.name,
    email: row.email,
    csrf: row.csrf,
    memberships,
    roles: new Map(memberships.map(({ id, role }) => [id, role])),
  };
}

export function viewOf({ style }: Context, { account, name, email, memberships, csrf }: SignedIn): SessionView {
  return { account: { id: account, name, email }, portfolios: memberships, csrf, style };
}

export async function signOut({ database }: Context, token: string): Promise<void> {
  await store.deleteSession(database, hashToken(token));
}
