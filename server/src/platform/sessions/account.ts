import { randomBytes } from 'node:crypto';
import type { FactorView, MailWish, SessionRowView } from '@domatium/contracts';
import type { AccountId } from '@domatium/core/plan';
import { later, MINUTE } from '@domatium/core/time';
import { inTransaction, type Context } from '../database/context.js';
import { notifyEvent } from '../events/index.js';
import { ConflictError, InvalidError, NotFoundError, Refused } from '../errors.js';
import { postMail } from '../mail/index.js';
import { factorUri, newRecoveryCodes, newSecret, plainCode, stepOf } from './factor.js';
import { hashPassword, hashToken, isPassword } from './hashing.js';
import * as store from './store.js';
import { Throttle, triesAt } from './throttle.js';
import { say } from '@domatium/core/words/answers/sessions';

const RESET_HOURS = 2;

const me = ({ account }: Context) => account as AccountId;

async function own(context: Context): Promise<store.AccountRow> {
  const row = await store.accountById(context.database, me(context));
  if (!row) throw new NotFoundError('account');
  return row;
}

/** Asked for again before anything that would lock somebody out; guesses are slowed down as at sign-in. */
async function refuseWrongPassword(
  context: Context,
  row: store.AccountRow,
  password: string,
  address: string,
): Promise<void> {
  const throttle = new Throttle(context.database, triesAt(`account ${row.email}`, address), context.now);
  await throttle.count();
  if (!(await isPassword(row.password_hash, password)))
    throw new InvalidError([{ path: 'password', message: say.thatIsntYourPassword }]);
  await throttle.forget();
}

/** Streams of the account's events are told to look whether they may go on. */
const tellStreams = (context: Context) =>
  notifyEvent(context.database, { portfolioId: 0, kind: 'sessions', by: context.account });

export async function sessions(context: Context, token: string): Promise<SessionRowView[]> {
  const rows = await store.sessionsOf(context.database, me(context), context.now);
  const current = hashToken(token);
  return rows.map(({ id, token_hash, created_at, seen_at, address, agent }) => ({
    id,
    isThis: token_hash === current,
    since: created_at,
    seenAt: seen_at ?? created_at,
    address: address ?? '',
    agent: agent ?? '',
  }));
}

export async function endSession(context: Context, id: number): Promise<{ ended: number }> {
  const ended = await store.endSessions(context.database, me(context), { id });
  await tellStreams(context);
  return { ended };
}

export async function endOtherSessions(context: Context, token: string): Promise<{ ended: number }> {
  const ended = await store.endSessions(context.database, me(context), { but: hashToken(token) });
  await tellStreams(context);
  return { ended };
}

/** One's own name, and how one is told by mail. */
export async function setAccount(
  context: Context,
  wanted: { readonly name: string; readonly mailWish: MailWish },
): Promise<{ readonly name: string; readonly mailWish: MailWish }> {
  await store.setAccount(context.database, me(context), wanted);
  return wanted;
}

/** Changes the password; every other session ends. */
export async function changePassword(
  context: Context,
  { current, next, token, address }: { current: string; next: string; token: string; address: string },
): Promise<{ ended: number }> {
  await refuseWrongPassword(context, await own(context), current, address);
  await store.setPassword(context.database, me(context), await hashPassword(next));
  return endOtherSessions(context, token);
}

/** Sends a link for a new password, where there is such an account; the answer is the same where there is none. */
export async function askForReset(
  context: Context,
  email: string,
  origin: string,
  address: string,
): Promise<Record<string, never>> {
  await new Throttle(context.database, triesAt(`reset ${email}`, address), context.now).count();
  const account = await store.accountByEmail(context.database, email);
  if (!account) return {};
  const token = randomBytes(24).toString('base64url');
  await inTransaction(context.database, async (trx) => {
    await store.insertReset(
      trx,
      account.id,
      hashToken(token),
      context.now,
      later(context.now, RESET_HOURS * 60 * MINUTE),
    );
    const body = say.somebodyYouWeHopeWantsA(email, origin, token, RESET_HOURS);
    await postMail(trx, { to: email, subject: say.aNewPassword, body }, context.now);
  });
  return {};
}

/** Takes a new password through the link of a mail; every session ends. The second factor stays. */
export async function reset(
  context: Context,
  token: string,
  password: string,
  address: string,
): Promise<Record<string, never>> {
  const { database, now } = context;
  await new Throttle(database, triesAt('reset link', address), now).count();
  // The link is looked at before anything is hashed.
  if (!(await store.hasReset(database, hashToken(token), now))) throw new Refused('link-used', say.itWasUsedOrHasEnded);
  const passwordHash = await hashPassword(password);
  const account = await inTransaction(database, async (trx) => {
    const id = await store.useReset(trx, hashToken(token), now);
    if (id === null) throw new Refused('link-used', say.itWasUsedJustNowSign);
    await store.setPassword(trx, id, passwordHash);
    await store.endSessions(trx, id, { but: null });
    return id;
  });
  await tellStreams({ ...context, account });
  return {};
}

export async function factor(context: Context): Promise<FactorView> {
  const { totp_at } = await own(context);
  return {
    since: totp_at,
    recoveryCodes: totp_at === null ? 0 : await store.countRecoveryCodes(context.database, me(context)),
  };
}

/** Begins a second factor: a secret for the authenticator, in force once a code of it has been given. */
export async function beginFactor(
  context: Context,
  password: string,
  address: string,
): Promise<{ secret: string; uri: string }> {
  const row = await own(context);
  await refuseWrongPassword(context, row, password, address);
  const secret = newSecret();
  if (!(await store.beginFactor(context.database, row.id, secret)))
    throw new ConflictError(say.youHaveASecondFactorAlready);
  return { secret, uri: factorUri(secret, row.email) };
}

/** The second factor is in force from now on; gives the codes for the day it is lost, told this once. */
export async function confirmFactor(
  context: Context,
  code: string,
  token: string,
): Promise<{ recoveryCodes: string[] }> {
  const { database, now } = context;
  const row = await own(context);
  if (row.totp_secret === null || row.totp_at !== null) throw new ConflictError(say.beginWithTheSecretFirst);
  const step = stepOf(row.totp_secret, code, now, row.totp_step);
  if (step === null) throw new InvalidError([{ path: 'code', message: say.thatCodeIsNotRightIs }]);
  const recoveryCodes = newRecoveryCodes();
  const hashes = recoveryCodes.map((one) => hashToken(plainCode(one)));
  await inTransaction(database, async (trx) => {
    await store.confirmFactor(trx, row.id, step, hashes, now);
    await store.noteFactor(trx, hashToken(token), now);
  });
  return { recoveryCodes };
}

export async function endFactor(context: Context, password: string, address: string): Promise<Record<string, never>> {
  const row = await own(context);
  await refuseWrongPassword(context, row, password, address);
  await store.endFactor(context.database, row.id);
  return {};
}
