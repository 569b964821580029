import type { Instant } from '@domatium/core/time';
import { counter } from '@domatium/storage';
import type { Db } from '../database/context.js';
import { Refused } from '../errors.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/sessions';

/** After the free ones, each more doubles the wait, up to a quarter of an hour. */
const LONGEST_WAIT = 900;

const refusals = counter(
  'domatium_sign_in_refusals_total',
  'Tries to sign in, or with a link or code, that have to wait.',
);

/** Under which name tries are counted, and how many an hour are free. */
export interface TryKey {
  readonly key: string;
  readonly free: number;
}

/** Tries of what an account, a link or an address may be guessed by: an address pays for itself first. */
export const triesAt = (what: string, from: string, isKnownPlace = false): TryKey[] => [
  { key: `${what} from ${from}`, free: 5 },
  { key: `from ${from}`, free: 30 },
  // Guesses from many addresses are bounded too; whoever comes from where they came before is not held up by them.
  ...(isKnownPlace ? [] : [{ key: what, free: 60 }]),
];

/** Slows down whoever guesses. A try is counted before it is judged, in one step: of many at once each is one more. */
export class Throttle {
  constructor(
    private readonly db: Db,
    private readonly keys: readonly TryKey[],
    private readonly now: Instant,
  ) {}

  /** Counts a try under each key; refuses while one has to wait. */
  async count(): Promise<void> {
    for (const { key, free } of this.keys) {
      const wait = await store.countTry(this.db, key, free, LONGEST_WAIT, this.now);
      if (wait === null) continue;
      refusals.inc();
      const seconds = Math.max(1, Math.ceil(wait / 1000));
      throw new Refused('too-many-tries', say.waitSecondThenTryAgain(seconds, seconds === 1 ? '' : say.s), {
        retryAfter: seconds,
      });
    }
  }

  /** It was right: the first key begins anew, and the others forget this try. */
  async forget(): Promise<void> {
    const [first, ...others] = this.keys.map(({ key }) => key);
    await store.forgetTries(this.db, first ?? '', others);
  }
}
