import { DAY } from '@domatium/core/time';
import type { Request, Response } from 'express';
import type { Context } from '../database/context.js';
import { COOKIE } from '../http/forgery.js';
import { SESSION_DAYS, type From } from './service.js';

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

/** Where a request comes from: the address as trusted proxies give it, and the browser as it names itself. */
export const fromOf = (request: Request): From => ({
  address: request.ip ?? '',
  agent: request.get('user-agent') ?? '',
});
