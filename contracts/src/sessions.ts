import { object, string } from 'yup';
import type { Role } from './access.js';
import { endpoint } from './endpoint.js';

export interface SessionView {
  readonly account: { readonly id: number; readonly name: string; readonly email: string };
  readonly portfolios: readonly {
    readonly id: number;
    readonly name: string;
    readonly zone: string;
    readonly role: Role;
  }[];
  /** Sent back in the header `X-Csrf-Token` with everything that changes something. */
  readonly csrf: string;
  /** How absolute addresses look outside. */
  readonly style: { readonly scheme: 'http' | 'https'; readonly suffix: string; readonly port: number | null };
}

export const signInBody = object({
  email: string()
    .transform((value: unknown) => (typeof value === 'string' ? value.trim().toLowerCase() : value))
    .required('Write your e-mail address.')
    .email('That is not an e-mail address.')
    .max(320),
  password: string().required('Write your password.').max(1000),
}).noUnknown('There is no such field.');

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
};
