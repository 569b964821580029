import { problem, type Problem } from '@domatium/contracts';
import { InvalidError, isDiskTrouble, isUnavailable, Refused } from '../errors.js';

/** PostgreSQL's codes for a character that no text of it can hold. */
const UNSTORABLE = new Set(['22021', '22P05']);

/** PostgreSQL's codes for a number that no column of it can hold. */
const OUT_OF_RANGE = new Set(['22003', '22P02']);

/** Any error as problem details. What is not a refusal of ours is not explained to the outside. */
export function problemOf(error: unknown): Problem {
  const { code, message, extra } = refusedOf(error);
  const { retryAfter: _, ...more } = extra;
  return problem(code, message, more);
}

function refusedOf(error: unknown): Refused {
  if (error instanceof Refused) return error;
  if (isUnavailable(error))
    return new Refused('database-away', 'Nothing is lost. Try again in a moment; your text is kept.');
  if (isDiskTrouble(error))
    return new Refused(
      'disk-full',
      'What you sent was not saved. Whoever runs the server has to free up space; then try again.',
    );
  const { type, status, code, limit } = error as { type?: string; status?: number; code?: string; limit?: number };
  if (code !== undefined && UNSTORABLE.has(code))
    return new InvalidError([
      { path: 'body', message: 'A text holds a character that can’t be kept (U+0000). Take it out.' },
    ]);
  if (code !== undefined && OUT_OF_RANGE.has(code))
    return new InvalidError([{ path: 'body', message: 'A number is out of the range in which numbers are kept.' }]);
  if (type === 'entity.too.large')
    return new Refused(
      'too-large',
      `That is more than can be sent at once: at most ${Math.round((limit ?? 0) / 1024 / 1024)} MB.`,
    );
  if (status !== undefined && status >= 400 && status < 500)
    return new Refused('unreadable', 'The request can’t be read. It must be JSON.');
  return new Refused('internal', 'This is our fault; it has been logged.');
}
