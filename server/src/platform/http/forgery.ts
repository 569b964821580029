import { timingSafeEqual } from 'node:crypto';
import type { Request } from 'express';
import type { SignedIn } from '../sessions/index.js';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Refuses what another site's page could have sent: the origin must be ours, and the session's own token must come along. */
export function refuseForgery(request: Request, signedIn: SignedIn | null): void {
  if (SAFE.has(request.method)) return;
  const { origin, host } = request.headers;
  if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`)
    throw new Refused('cross-site', say.thisRequestComesFromAnotherSite);
  if (!signedIn) return;
  const sent = Buffer.from(request.get('x-csrf-token') ?? '');
  const own = Buffer.from(signedIn.csrf);
  if (sent.length !== own.length || !timingSafeEqual(sent, own))
    throw new Refused('cross-site', say.theRequestLacksThisSessionsToken);
}
