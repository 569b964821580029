import { randomBytes } from 'node:crypto';
import type { InvitationView, PeopleView, Role } from '@domatium/contracts';
import { slugOf } from '@domatium/core/address';
import type { AccountId, PortfolioId } from '@domatium/core/plan';
import { DAY, later, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { tooMany } from '../../platform/http/limits.js';
import { ConflictError, InvalidError, NotFoundError, Refused } from '../../platform/errors.js';
import { postMail } from '../../platform/mail/index.js';
import {
  accountOf,
  hashPassword,
  hashToken,
  signIn,
  Throttle,
  triesAt,
  viewOf,
  whoIs,
  type From,
} from '../../platform/sessions/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/people';

const INVITED_DAYS = 14;
/** A day and portfolio: mails go to people who did not ask for them. */
const MOST_INVITATIONS = 50;
/** Portfolios one person owns. */
const MOST_PORTFOLIOS = 40;

/** A portfolio to be made, and the host of the installation under which it gets one of its own. */
interface NewPortfolio {
  readonly name: string;
  readonly zone: string;
  readonly below: string;
}

export interface Person {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  /** Of the authenticator, where the account has a second factor. */
  readonly code?: string | null | undefined;
}

export async function people(
  { database, now }: Context,
  portfolioId: PortfolioId,
  hasMail: boolean,
): Promise<PeopleView> {
  return {
    members: await store.membersOf(database, portfolioId, now),
    invitations: await store.openInvitations(database, portfolioId, now),
    sites: await store.rulesOfSites(database, portfolioId),
    ...(await store.rulesOf(database, portfolioId)),
    hasMail,
  };
}

export const newToken = () => randomBytes(24).toString('base64url');
const linkOf = (token: string) => `/welcome/${token}`;

/** Invites by a link that works once; where an address is given, it is sent there too. */
export function invite(
  context: Context,
  portfolioId: PortfolioId,
  { email, role }: { readonly email: string; readonly role: Role },
  origin: string,
): Promise<{ id: number; path: string }> {
  const { now, account } = context;
  const token = newToken();
  const expiresAt = later(now, INVITED_DAYS * DAY);
  return inTransaction(context.database, async (trx) => {
    if ((await store.countInvitations(trx, portfolioId, later(now, -DAY))) >= MOST_INVITATIONS)
      throw tooMany(3600, say.invitationsADayAreSentFor(MOST_INVITATIONS));
    const invitation = { portfolioId, email, role, tokenHash: hashToken(token), expiresAt };
    const id = await store.insertInvitation(trx, invitation, now, account);
    const body = say.youAreInvitedToWorkOn(role, origin, linkOf(token), INVITED_DAYS);
    await postMail(trx, { to: email, subject: say.anInvitation, body }, now);
    await tell(trx, context, portfolioId, id, 'invite', { email, role });
    return { id, path: linkOf(token) };
  });
}

export async function revokeInvitation(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    if (!(await store.revoke(trx, portfolioId, id, context.now))) throw new NotFoundError('invitation');
    await tell(trx, context, portfolioId, id, 'revoke-invitation', undefined);
    return { id };
  });
}

/** What an invitation is to; one that ended, was revoked or used says so. */
export function invitation({ database, now }: Context, token: string): Promise<InvitationView> {
  return inTransaction(database, async (trx) => {
    const row = await usable(trx, token, now);
    return {
      portfolio: row.portfolio,
      role: row.role,
      email: row.email,
      isKnown: row.email !== null && (await accountOf(trx, row.email)) !== null,
    };
  });
}

async function usable(trx: Db, token: string, now: Instant): Promise<store.InvitationRow> {
  const row = await store.invitationByHash(trx, hashToken(token));
  const gone = (detail: string) => new Refused('link-used', detail);
  if (!row) throw gone(say.thisInvitationDoesntExistAskThe);
  if (row.used_at !== null) throw gone(say.thisInvitationWasAlreadyUsedSign);
  if (row.revoked_at !== null) throw gone(say.thisInvitationWasRevokedAskFor);
  if (row.expires_at <= now) throw gone(say.thisInvitationHasExpiredAskFor);
  return row;
}

/** Uses an invitation, and signs in. An account that exists is taken with its own password. */
export async function join(
  context: Context,
  token: string,
  person: Person,
  from: From,
): Promise<Awaited<ReturnType<typeof signIn>>> {
  const { now } = context;
  await refuseUnusable(context, token, person, from);
  const known = await accountOf(context.database, person.email);
  // Slowed down like any sign-in where the password is wrong.
  const signedIn = known ? await signIn(context, person, from) : null;
  const hash = known ? '' : await hashPassword(person.password);
  await inTransaction(context.database, async (trx) => {
    const row = await usable(trx, token, now);
    if (row.portfolio_id === null) throw new ConflictError(say.thisLinkIsForTheFirst);
    const account = await memberFor(trx, person, hash);
    await store.addMember(trx, row.portfolio_id, account, row.role);
    await store.noteUsed(trx, row.id, account, now);
    await tell(trx, { ...context, account }, row.portfolio_id, account, 'join', { role: row.role });
  });
  if (!signedIn) return signIn(context, person, from);
  // Signed in before it was a member here: the view is of now.
  const current = await whoIs(context, signedIn.token);
  return current ? { ...signedIn, view: viewOf(context, current) } : signedIn;
}

/**
 * The link is looked at before anything else: who has none learns nothing and has nothing hashed. An invitation is to
 * one address, so that nobody comes in under that of somebody else.
 */
async function refuseUnusable(context: Context, token: string, person: Person, from: From): Promise<void> {
  const { database, now } = context;
  await new Throttle(database, triesAt('invitation', from.address, true), now).count();
  const row = await usable(database, token, now);
  if (row.email !== null && row.email !== person.email)
    throw new InvalidError([{ path: 'email', message: say.thisInvitationIsToJoinWith(row.email) }]);
}

async function memberFor(trx: Db, { email, name }: Person, passwordHash: string): Promise<AccountId> {
  return (await accountOf(trx, email)) ?? store.insertAccount(trx, { email, name, passwordHash });
}

/** The first person of an installation makes an account and names a portfolio. */
export async function found(
  context: Context,
  token: string,
  person: Person,
  portfolio: NewPortfolio,
  from: From,
): Promise<{ signedIn: Awaited<ReturnType<typeof signIn>>; id: number }> {
  await refuseUnusable(context, token, person, from);
  const hash = await hashPassword(person.password);
  const id = await inTransaction(context.database, async (trx) => {
    const row = await usable(trx, token, context.now);
    if (row.portfolio_id !== null) throw new ConflictError(say.thisLinkIsToAPortfolio);
    if (!(await store.isEmpty(trx))) throw new ConflictError(say.thisInstallationIsAlreadySetUp);
    const account = await store.insertAccount(trx, { email: person.email, name: person.name, passwordHash: hash });
    await store.noteUsed(trx, row.id, account, context.now);
    return portfolioIn(trx, { ...context, account }, portfolio);
  });
  return { id, signedIn: await signIn(context, person, from) };
}

/** Makes a portfolio with a host of its own; whoever makes it owns it. */
export function newPortfolio(context: Context, portfolio: NewPortfolio, ownsOne: boolean): Promise<{ id: number }> {
  if (!ownsOne) throw new Refused('not-allowed', say.whoeverOwnsAPortfolioMayMake);
  return inTransaction(context.database, async (trx) => {
    if ((await store.countOwned(trx, context.account ?? 0)) >= MOST_PORTFOLIOS)
      throw new ConflictError(say.onePersonOwnsAtMostPortfolios(MOST_PORTFOLIOS));
    return { id: await portfolioIn(trx, context, portfolio) };
  });
}

async function portfolioIn(
  trx: Knex.Transaction,
  context: Context,
  { name, zone, below }: NewPortfolio,
): Promise<PortfolioId> {
  const base = slugOf(name) || 'portfolio';
  const taken = await store.slugsLike(trx, base);
  let slug = base;
  for (let n = 2; taken.has(slug); n++) slug = `${base}-${n}`;
  const id = await store.insertPortfolio(trx, { name, slug, zone });
  const host = `${slug}.${below}`;
  await store.insertHost(trx, id, { name: host, domain: null, isOwn: true });
  await store.addMember(trx, id, context.account as AccountId, 'owner');
  await tell(trx, context, id, id, 'new-portfolio', { name, zone, host });
  return id;
}

export function setRole(
  context: Context,
  portfolioId: PortfolioId,
  personId: number,
  role: Role,
): Promise<{ role: Role }> {
  return inTransaction(context.database, async (trx) => {
    const was = await memberOf(trx, portfolioId, personId, role === 'owner' ? null : 'stays one');
    await store.setRole(trx, portfolioId, personId, role);
    await tell(trx, context, portfolioId, personId, 'set-role', { was, role });
    return { role };
  });
}

/** Whether this portfolio lets in only those who signed in with a second factor; whoever asks for it must have one. */
export function setWantsFactor(
  context: Context,
  portfolioId: PortfolioId,
  isWanted: boolean,
  hasFactor: boolean,
): Promise<{ isWanted: boolean }> {
  if (isWanted && !hasFactor) throw new ConflictError(say.youWouldLockYourselfOutSet);
  return inTransaction(context.database, async (trx) => {
    await trx('portfolio').where({ id: portfolioId }).update({ wants_factor: isWanted });
    await tell(trx, context, portfolioId, portfolioId, 'wants-factor', { isWanted });
    return { isWanted };
  });
}

/** For how many days the portfolio keeps what visitors got; the daily sweep takes what is older. */
export function setKeepDays(
  context: Context,
  portfolioId: PortfolioId,
  days: number | null,
): Promise<{ days: number | null }> {
  return inTransaction(context.database, async (trx) => {
    await trx('portfolio').where({ id: portfolioId }).update({ keep_days: days });
    await tell(trx, context, portfolioId, portfolioId, 'keep-days', { days });
    return { days };
  });
}

/**
 * Removes somebody from the portfolio; their sessions and streams end at once. Private links they made end too, or are
 * handed over to whoever removes them. Pages they own stay theirs by name.
 */
export function removePerson(
  context: Context,
  portfolioId: PortfolioId,
  personId: number,
  keepsLinks: boolean,
): Promise<{ id: number; links: number }> {
  return inTransaction(context.database, async (trx) => {
    const was = await memberOf(trx, portfolioId, personId, 'stays');
    const links = await store.settleLinks(trx, portfolioId, personId, keepsLinks ? context.account : null, context.now);
    await store.removeMember(trx, portfolioId, personId);
    await tell(trx, context, portfolioId, personId, 'remove-person', { was, links, keepsLinks });
    return { id: personId, links };
  });
}

/** A member’s role; the last owner is refused where `words` say what an owner does. */
async function memberOf(trx: Db, portfolioId: PortfolioId, personId: number, words: string | null): Promise<Role> {
  const members = await store.lockMembers(trx, portfolioId);
  const member = members.find(({ account_id }) => (account_id as number) === personId);
  if (!member) throw new NotFoundError('member');
  const owners = members.filter(({ role }) => role === 'owner').length;
  if (words !== null && member.role === 'owner' && owners === 1)
    throw new ConflictError(say.theLastOwnerMakeSomebodyElse(words));
  return member.role;
}

/** The link for the first person, where there is nobody yet; each start makes a new one. */
export function firstLink(database: Knex, now: Instant): Promise<string | null> {
  return inTransaction(database, async (trx) => {
    if (!(await store.isEmpty(trx))) return null;
    await store.revokeFirst(trx, now);
    const token = newToken();
    const expiresAt = later(now, INVITED_DAYS * DAY);
    const first = { portfolioId: null, email: null, role: 'owner' as const, tokenHash: hashToken(token), expiresAt };
    await store.insertInvitation(trx, first, now, null);
    return linkOf(token);
  });
}

export async function tell(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  objectId: number,
  act: string,
  after: unknown,
  before?: unknown,
): Promise<void> {
  await writeAudit(trx, { portfolioId, at: now, accountId: account, act, object: 'people', objectId, before, after });
  await notifyEvent(trx, { portfolioId, kind: 'people', by: account });
}
