import { createHash } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import PQueue from 'p-queue';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/sessions';

/** Two at a time, each some tens of milliseconds and 19 MiB: whoever has others hashed holds up only those who sign in. */
const queue = new PQueue({ concurrency: 2 });
const MOST_WAITING = 40;

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (queue.size >= MOST_WAITING) throw new Refused('sign-ins-busy', say.tryAgainInAMoment, { retryAfter: 5 });
  return (await queue.add(work)) as T;
}

export const hashToken = (token: string) => createHash('sha256').update(token).digest('hex');

/** Argon2id with the package's defaults (19 MiB, two passes: OWASP's first choice). */
export const hashPassword = (password: string) => inTurn(() => hash(password));
export const isPassword = (passwordHash: string, password: string) => inTurn(() => verify(passwordHash, password));
