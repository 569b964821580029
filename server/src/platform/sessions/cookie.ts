import { DAY } from '@domatium/core/time';
import { parse } from 'cookie';
import type { Request, Response } from 'express';
import { SESSION_DAYS, type From } from './service.js';

/** The session's cookie: out of reach of scripts, and where the application is on https bound to it and to this one host. */
export class SessionCookie {
  private readonly isSecure: boolean;
  private readonly name: string;

  constructor(origin: string) {
    this.isSecure = origin.startsWith('https:');
    // A browser takes a name that begins so from this host alone, over https, for all paths (RFC 6265bis, 4.1.3.2).
    this.name = this.isSecure ? '__Host-domatium' : 'domatium';
  }

  /** The session's token out of a request, or `null`. */
  tokenOf(request: Request): string | null {
    return tokenIn(request, this.name);
  }

  set(response: Response, token: string): void {
    response.cookie(this.name, token, { ...this.manner(), maxAge: SESSION_DAYS * DAY });
  }

  clear(response: Response): void {
    response.clearCookie(this.name, this.manner());
  }

  private manner() {
    return { httpOnly: true, sameSite: 'lax', path: '/', secure: this.isSecure } as const;
  }
}

/** A token out of a cookie of this name, or `null` where there is none that could be one. */
export function tokenIn(request: Request, name: string): string | null {
  const token = parse(request.headers.cookie ?? '')[name];
  return token !== undefined && /^[A-Za-z0-9_-]{20,100}$/.test(token) ? token : null;
}

/** Where a request comes from: the address as trusted proxies give it, and the browser as it names itself. */
export const fromOf = (request: Request): From => ({
  address: request.ip ?? '',
  agent: request.get('user-agent') ?? '',
});
