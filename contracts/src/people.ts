import { SETTABLE, TAKEN, type Severities } from '@domatium/core/checks';
import { isZone } from '@domatium/core/time';
import { boolean, mixed, number, object, string } from 'yup';
import { ROLES, type Role } from './access.js';
import { endpoint } from './endpoint.js';
import { id, trim } from './fields.js';
import { inPortfolio } from './pages.js';
import type { SessionView } from './sessions.js';
import { say } from '@domatium/core/words/answers/requests';

/** What a site asks of a release. */
export interface SiteRules {
  /** How many others have to approve it: none, one or two. */
  readonly approvals: number;
  /** What checks find and the site takes otherwise than usual, by its code. */
  readonly severities: Severities;
}

/** By code, only what is known and can be taken otherwise. */
const severities = () =>
  mixed<Severities>((value): value is Severities => typeof value === 'object' && value !== null)
    .test('severities', say.sayHowFindingsAreTaken, (value) =>
      Object.entries(value ?? {}).every(
        ([code, taken]) => (SETTABLE as readonly string[]).includes(code) && TAKEN.includes(taken),
      ),
    )
    .required();

export interface PeopleView {
  readonly members: readonly {
    readonly id: number;
    readonly name: string;
    readonly email: string;
    readonly role: Role;
    readonly hasFactor: boolean;
    /** Open private links they made. */
    readonly links: number;
  }[];
  /** Invitations nobody has used yet. */
  readonly invitations: readonly {
    readonly id: number;
    readonly email: string | null;
    readonly role: Role;
    readonly madeBy: string | null;
    readonly expiresAt: number;
  }[];
  /** Sites with what each asks of a release. */
  readonly sites: readonly ({ readonly id: number; readonly name: string } & SiteRules)[];
  /** Whether only those come in who sign in with a second factor. */
  readonly wantsFactor: boolean;
  /** For so many days it keeps what visitors got, `null` for ever. */
  readonly keepDays: number | null;
  /** Whether mail is sent; otherwise links are handed over by hand. */
  readonly hasMail: boolean;
}

/** What an invitation is to, for whoever opened its link. */
export interface InvitationView {
  /** `null` for the first person of an installation, who names a portfolio first. */
  readonly portfolio: string | null;
  readonly role: Role;
  readonly email: string | null;
  /** The account of that address exists: it signs in instead of being made. */
  readonly isKnown: boolean;
}

const email = () =>
  string()
    .transform((value: unknown) => (typeof value === 'string' ? value.trim().toLowerCase() : value))
    .email(say.thatIsntAnEMailAddress)
    .max(320);
const role = () =>
  mixed<Role>()
    .oneOf([...ROLES], say.chooseARole)
    .required(say.chooseARole);
const personName = () => string().transform(trim).required(say.enterYourName).max(100, say.atMost100Characters);
const password = () =>
  string().required(say.chooseAPassword).min(10, say.atLeast10Characters).max(1000, say.atMost1000Characters);
const token = object({ token: string().required().max(100) });

export const portfolioBody = object({
  name: string().transform(trim).required(say.aPortfolioNeedsAName).max(100, say.atMost100Characters),
  zone: string()
    .required(say.chooseATimeZone)
    .max(60)
    .test('zone', say.unknownTimeZone, (value) => !value || isZone(value)),
}).noUnknown(say.unknownField);

export const joinBody = object({
  name: personName(),
  email: email().required(say.enterYourEMailAddress),
  password: password(),
  code: string().max(40).nullable().optional(),
}).noUnknown(say.unknownField);

export const siteFields = {
  name: string().transform(trim).required(say.aSiteNeedsAName).max(100, say.atMost100Characters),
  /** `null`: below the portfolio’s own host under the installation. */
  host: string().transform(trim).max(253).nullable().default(null),
  basePath: string().transform(trim).default('/').max(200),
  theme: string().required().max(40),
  /** By which the holder of the domain above allows this host. */
  consent: string().transform(trim).max(100).nullable().optional(),
};
export const siteBody = object(siteFields).noUnknown(say.unknownField);
export const inviteBody = object({
  email: email().required(say.enterTheEMailAddressTo),
  role: role(),
}).noUnknown(say.unknownField);

const onPerson = object({ portfolioId: id(), personId: id() });

export const people = {
  people: endpoint<PeopleView>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/people',
    who: 'read',
    summary: 'Members of the portfolio, and open invitations',
    params: inPortfolio,
  }),
  invite: endpoint<{ readonly id: number; readonly path: string }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/people/invitations',
    who: 'manage',
    summary: 'Invite an address by a link that works once; it is told this once, and sent where mail is set up',
    params: inPortfolio,
    body: inviteBody,
  }),
  revokeInvitation: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/people/invitations/:invitationId/revoke',
    who: 'manage',
    summary: 'End an invitation nobody has used',
    params: object({ portfolioId: id(), invitationId: id() }),
  }),
  setRole: endpoint<{ readonly role: Role }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/people/:personId',
    who: 'manage',
    summary: 'Change what somebody may do; the last owner stays one',
    params: onPerson,
    body: object({ role: role() }).noUnknown(say.unknownField),
  }),
  removePerson: endpoint<{ readonly id: number; readonly links: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/people/:personId/remove',
    who: 'manage',
    summary: 'Remove somebody: their sessions end at once, and private links they made unless they are kept',
    params: onPerson,
    body: object({ keepsLinks: boolean().default(false) }).noUnknown(say.unknownField),
  }),
  setWantsFactor: endpoint<{ readonly isWanted: boolean }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/people/factor',
    who: 'manage',
    summary: 'Let in only those who sign in with a second factor, or everybody',
    params: inPortfolio,
    body: object({ isWanted: boolean().required() }).noUnknown(say.unknownField),
  }),
  setKeepDays: endpoint<{ readonly days: number | null }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/people/keeping',
    who: 'manage',
    summary: 'For how many days what visitors got is kept for as of, or for ever',
    params: inPortfolio,
    body: object({
      days: number()
        .integer()
        .min(30, say.atLeast30Days)
        .max(36_500, say.atMost36500Days)
        .nullable()
        .defined(say.sayForHowManyDaysOr),
    }).noUnknown(say.unknownField),
  }),
  allowHost: endpoint<{ readonly code: string }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/sites/allowed-hosts',
    who: 'manage',
    summary: 'Allow another portfolio a host under a domain of this one; answers with a code that works once',
    params: inPortfolio,
    body: object({ host: string().transform(trim).required(say.enterTheHost).max(253) }).noUnknown(say.unknownField),
  }),
  newSite: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/sites',
    who: 'manage',
    summary: 'Add a site, on a host of its own or below the portfolio’s own host',
    params: inPortfolio,
    body: siteBody,
  }),
  setSiteRules: endpoint<SiteRules>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/sites/:siteId/rules',
    who: 'manage',
    summary: 'What a site asks of a release: approvals of others, and how serious it takes what checks find',
    params: object({ portfolioId: id(), siteId: id() }),
    body: object({
      approvals: number().integer().min(0).max(2, say.atMostTwo).required(),
      severities: severities(),
    }).noUnknown(say.unknownField),
  }),
  setSite: endpoint<{ readonly name: string }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/sites/:siteId',
    who: 'manage',
    summary: 'Rename a site among us; what its visitors read is its profile',
    params: object({ portfolioId: id(), siteId: id() }),
    body: object({ name: siteFields.name }).noUnknown(say.unknownField),
  }),
  setPortfolio: endpoint<{ readonly name: string; readonly zone: string }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId',
    who: 'manage',
    summary: 'Give a portfolio another name or time zone; what is planned stays at its instants',
    params: inPortfolio,
    body: portfolioBody,
  }),
  newPortfolio: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios',
    who: 'signed-in',
    summary: 'Make a portfolio; whoever owns one may make another',
    body: portfolioBody,
  }),
  invitation: endpoint<InvitationView>()({
    method: 'GET',
    path: '/api/invitations/:token',
    who: 'anyone',
    summary: 'What an invitation is to',
    params: token,
  }),
  join: endpoint<SessionView>()({
    method: 'POST',
    path: '/api/invitations/:token/join',
    who: 'anyone',
    summary: 'Use an invitation: makes the account, or takes the one of that address and password; signs in',
    params: token,
    body: joinBody,
  }),
  found: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/invitations/:token/portfolio',
    who: 'anyone',
    summary: 'The first person of an installation makes an account and names a portfolio',
    params: token,
    body: object({ person: joinBody.required(), portfolio: portfolioBody.required() }).noUnknown(say.unknownField),
  }),
};
