import { object, string } from 'yup';
import type { Role } from './access.js';
import { endpoint } from './endpoint.js';
import { id, name } from './fields.js';
import { say } from '@domatium/core/words/answers/requests';

/** How somebody is told by mail: of each thing as it happens, or in one mail a day. */
export const MAIL_WISHES = ['at-once', 'daily'] as const;
export type MailWish = (typeof MAIL_WISHES)[number];

export interface SessionView {
  readonly account: {
    readonly id: number;
    readonly name: string;
    readonly email: string;
    readonly mailWish: MailWish;
  };
  readonly portfolios: readonly {
    readonly id: number;
    readonly name: string;
    readonly zone: string;
    readonly role: Role;
    /** Wants a second factor, and this session began without one. */
    readonly isClosed: boolean;
  }[];
  /** Sent back in the header `X-Csrf-Token` with everything that changes something. */
  readonly csrf: string;
  /** How absolute addresses look outside. */
  readonly style: { readonly scheme: 'http' | 'https'; readonly suffix: string; readonly port: number | null };
}

export const signInBody = object({
  email: string()
    .transform((value: unknown) => (typeof value === 'string' ? value.trim().toLowerCase() : value))
    .required(say.enterYourEMailAddress)
    .email(say.thatIsntAnEMailAddress)
    .max(320),
  password: string().required(say.enterYourPassword).max(1000),
  /** Of the authenticator, or a recovery code, where the account has a second factor. */
  code: string().max(40).nullable().optional(),
}).noUnknown(say.unknownField);

export const newPassword = () =>
  string().required(say.chooseAPassword).min(10, say.atLeast10Characters).max(1000, say.atMost1000Characters);
const ownPassword = () => string().required(say.enterYourPassword).max(1000);
const email = () =>
  string()
    .transform((value: unknown) => (typeof value === 'string' ? value.trim().toLowerCase() : value))
    .required(say.enterYourEMailAddress)
    .email(say.thatIsntAnEMailAddress)
    .max(320);

export const changePasswordBody = object({ current: ownPassword(), next: newPassword() }).noUnknown(say.unknownField);
export const resetBody = object({ password: newPassword() }).noUnknown(say.unknownField);
export const askForResetBody = object({ email: email() }).noUnknown(say.unknownField);

/** A session of one's own: where it was begun, and when it was used last. */
export interface SessionRowView {
  readonly id: number;
  readonly isThis: boolean;
  readonly since: number;
  readonly seenAt: number;
  readonly address: string;
  readonly agent: string;
}

export interface FactorView {
  /** Since when the second factor is in force; `null` where there is none. */
  readonly since: number | null;
  /** How many recovery codes are left. */
  readonly recoveryCodes: number;
}

export const sessions = {
  signIn: endpoint<SessionView>()({
    method: 'POST',
    path: '/api/session',
    who: 'anyone',
    summary: 'Sign in; sets the session cookie',
    body: signInBody,
  }),
  session: endpoint<SessionView>()({
    method: 'GET',
    path: '/api/session',
    who: 'signed-in',
    summary: 'Who is signed in, and where they may work',
  }),
  signOut: endpoint<Record<string, never>>()({
    method: 'DELETE',
    path: '/api/session',
    who: 'signed-in',
    summary: 'Sign out',
  }),
  setAccount: endpoint<{ readonly name: string; readonly mailWish: MailWish }>()({
    method: 'PUT',
    path: '/api/account',
    who: 'signed-in',
    summary: 'One’s own name, and how one is told by mail',
    body: object({
      name: name().max(100, say.atMost100Characters),
      mailWish: string().oneOf(MAIL_WISHES).required(),
    }).noUnknown(say.unknownField),
  }),
  ownSessions: endpoint<readonly SessionRowView[]>()({
    method: 'GET',
    path: '/api/account/sessions',
    who: 'signed-in',
    summary: 'One’s own sessions, the last used first',
  }),
  endSession: endpoint<{ readonly ended: number }>()({
    method: 'DELETE',
    path: '/api/account/sessions/:sessionId',
    who: 'signed-in',
    summary: 'End one of one’s own sessions',
    params: object({ sessionId: id() }),
  }),
  endOtherSessions: endpoint<{ readonly ended: number }>()({
    method: 'POST',
    path: '/api/account/sessions/end-others',
    who: 'signed-in',
    summary: 'End all of one’s own sessions but this one',
  }),
  changePassword: endpoint<{ readonly ended: number }>()({
    method: 'PUT',
    path: '/api/account/password',
    who: 'signed-in',
    summary: 'Change one’s password; every other session ends',
    body: changePasswordBody,
  }),
  askForReset: endpoint<Record<string, never>>()({
    method: 'POST',
    path: '/api/new-password',
    who: 'anyone',
    summary: 'Send a link for a new password, where there is such an account; answers the same where there is none',
    body: askForResetBody,
  }),
  reset: endpoint<Record<string, never>>()({
    method: 'POST',
    path: '/api/new-password/:token',
    who: 'anyone',
    summary: 'Take a new password through the link of a mail; every session ends',
    params: object({ token: string().required().max(100) }),
    body: resetBody,
  }),
  factor: endpoint<FactorView>()({
    method: 'GET',
    path: '/api/account/factor',
    who: 'signed-in',
    summary: 'One’s second factor',
  }),
  beginFactor: endpoint<{ readonly secret: string; readonly uri: string }>()({
    method: 'POST',
    path: '/api/account/factor',
    who: 'signed-in',
    summary: 'Begin a second factor: a secret for the authenticator, in force once a code of it has been given',
    body: object({ password: ownPassword() }).noUnknown(say.unknownField),
  }),
  confirmFactor: endpoint<{ readonly recoveryCodes: readonly string[] }>()({
    method: 'PUT',
    path: '/api/account/factor',
    who: 'signed-in',
    summary: 'Put the second factor in force; answers with the recovery codes, told this once',
    body: object({ code: string().required(say.enterTheCode).max(40) }).noUnknown(say.unknownField),
  }),
  endFactor: endpoint<Record<string, never>>()({
    method: 'POST',
    path: '/api/account/factor/end',
    who: 'signed-in',
    summary: 'End one’s second factor',
    body: object({ password: ownPassword() }).noUnknown(say.unknownField),
  }),
};
