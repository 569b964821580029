import { DAY } from '@domatium/core/time';
import type { Response } from 'express';
import type { Context } from '../database/context.js';
import { COOKIE } from '../http/forgery.js';
import { SESSION_DAYS } from './service.js';

/** Puts a session's token into the cookie: for this host alone, out of reach of scripts. */
export function setSession(response: Response, { style }: Context, token: string): void {
  response.cookie(COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: SESSION_DAYS * DAY,
    secure: style.scheme === 'https',
  });
}
