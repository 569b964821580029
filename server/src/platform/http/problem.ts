import { problem, type Problem } from '@domatium/contracts';
import { InvalidError, isDiskTrouble, isUnavailable, Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

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
  if (isUnavailable(error)) return new Refused('database-away', say.nothingIsLostTryAgainIn);
  if (isDiskTrouble(error)) return new Refused('disk-full', say.whatYouSentWasNotSaved);
  const { type, status, code, limit } = error as { type?: string; status?: number; code?: string; limit?: number };
  if (code !== undefined && UNSTORABLE.has(code))
    return new InvalidError([{ path: 'body', message: say.aTextHoldsACharacterThat }]);
  if (code !== undefined && OUT_OF_RANGE.has(code))
    return new InvalidError([{ path: 'body', message: say.aNumberIsOutOfThe }]);
  if (type === 'entity.too.large')
    return new Refused('too-large', say.thatIsMoreThanCanBeWithLimit(Math.round((limit ?? 0) / 1024 / 1024)));
  if (status !== undefined && status >= 400 && status < 500)
    return new Refused('unreadable', say.theRequestCantBeReadIt);
  return new Refused('internal', say.thisIsOurFaultItHas);
}
