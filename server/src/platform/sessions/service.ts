import { randomBytes } from 'node:crypto';
import type { MailWish, Role, SessionView } from '@domatium/contracts';
import type { AccountId } from '@domatium/core/plan';
import { DAY, later, MINUTE } from '@domatium/core/time';
import type { Context } from '../database/context.js';
import { InvalidError } from '../errors.js';
import { stepOf, plainCode } from './factor.js';
import { hashPassword, hashToken, isPassword } from './hashing.js';
import * as store from './store.js';
import { Throttle, triesAt } from './throttle.js';
import { say } from '@domatium/core/words/answers/sessions';

/** Who a request comes from, and where they may work. */
export interface SignedIn {
  readonly account: AccountId;
  readonly name: string;
  readonly email: string;
  readonly mailWish: MailWish;
  readonly csrf: string;
  readonly memberships: readonly store.MembershipRow[];
  readonly roles: ReadonlyMap<number, Role>;
  /** Whether the second factor was given when this session began. */
  readonly hasFactor: boolean;
}

/** Where a sign-in comes from, as it is counted and shown among the sessions. */
export interface From {
  readonly address: string;
  readonly agent: string;
}

export interface Credentials {
  readonly email: string;
  readonly password: string;
  /** Of the authenticator, or a recovery code; where the account has a second factor. */
  readonly code?: string | null | undefined;
}

export const SESSION_DAYS = 14;
/** That a session is used is written down no more often. */
const SEEN = 5 * MINUTE;

// Verified where there is no such account, so that both cases take as long.
const nobody = hashPassword(randomBytes(16).toString('hex'));

/** Opens a session; gives its token for the cookie. Refuses a wrong pair, slower with every failure. */
export async function signIn(
  context: Context,
  { email, password, code = null }: Credentials,
  from: From,
): Promise<{ token: string; view: SessionView }> {
  const { database, now } = context;
  const account = await store.accountByEmail(database, email);
  const isKnown = account !== null && (await store.isKnownPlace(database, account.id, from.address));
  const throttle = new Throttle(database, triesAt(`account ${email}`, from.address, isKnown), now);
  await throttle.count();
  const isRight = await isPassword(account?.password_hash ?? (await nobody), password);
  if (!account || !isRight) throw new InvalidError([{ path: 'password', message: say.thatEMailAddressAndPassword }]);
  const hasFactor = account.totp_at !== null;
  if (hasFactor) await refuseWrongCode(context, account, code, throttle);
  await throttle.forget();
  await store.notePlace(database, account.id, from.address, now);
  const token = randomBytes(32).toString('base64url');
  const csrf = randomBytes(24).toString('base64url');
  const session = { hash: hashToken(token), account: account.id, csrf, expires: later(now, SESSION_DAYS * DAY) };
  await store.insertSession(database, { ...session, ...from, hasFactor }, now);
  const { name, mail_wish } = account;
  const row = { id: 0, account_id: account.id, csrf, name, mail_wish, email: account.email, seen_at: now };
  const signedIn = await signedInOf(context, { ...row, factor_at: hasFactor ? now : null });
  return { token, view: viewOf(context, signedIn) };
}

/** A code is of the authenticator and used once, or one of the codes for the day it is lost. */
async function refuseWrongCode(
  { database, now }: Context,
  account: store.AccountRow,
  code: string | null,
  throttle: Throttle,
): Promise<void> {
  if (!code) {
    // The password was right: asking for the code is no try.
    await throttle.forget();
    throw new InvalidError([{ path: 'code', message: say.writeTheCodeOfYourAuthenticator }]);
  }
  const step = stepOf(account.totp_secret ?? '', code, now, account.totp_step);
  if (step !== null && (await store.useStep(database, account.id, step))) return;
  if (await store.useRecoveryCode(database, account.id, hashToken(plainCode(code)))) return;
  throw new InvalidError([{ path: 'code', message: say.thatCodeIsNotRightOr }]);
}

/** Who a session's token belongs to, or `null`. Roles are read anew each time, so that a change holds at once. */
export async function whoIs(context: Context, token: string | null): Promise<SignedIn | null> {
  if (!token) return null;
  const { database, now } = context;
  const row = await store.sessionByHash(database, hashToken(token), now);
  if (!row) return null;
  if (row.seen_at === null || row.seen_at < now - SEEN) await store.noteSeen(database, row.id, now);
  return signedInOf(context, row);
}

async function signedInOf({ database }: Context, row: store.SessionRow): Promise<SignedIn> {
  const memberships = await store.membershipsOf(database, row.account_id);
  return {
    account: row.account_id,
    name: row.name,
    email: row.email,
    mailWish: row.mail_wish,
    csrf: row.csrf,
    memberships,
    roles: new Map(memberships.map(({ id, role }) => [id, role])),
    hasFactor: row.factor_at !== null,
  };
}

export function viewOf(
  { style }: Context,
  { account, name, email, mailWish, memberships, csrf, hasFactor }: SignedIn,
): SessionView {
  const portfolios = memberships.map(({ wants_factor, ...portfolio }) => ({
    ...portfolio,
    isClosed: wants_factor && !hasFactor,
  }));
  return { account: { id: account, name, email, mailWish }, portfolios, csrf, style };
}

export async function signOut({ database }: Context, token: string): Promise<void> {
  await store.deleteSession(database, hashToken(token));
}
