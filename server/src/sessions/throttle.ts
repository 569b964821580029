import type { Instant } from '@domatium/core/time';
import type { Db } from '../database/context.js';
import { ProblemError } from '../http/problem.js';
import * as store from './store.js';

/** So many failures are free; each one more doubles the wait, up to a quarter of an hour. */
const FREE_FAILURES = 5;
const LONGEST_WAIT = 900_000;

/** Slows down whoever guesses: failures are counted under each of the keys. */
export class Throttle {
  constructor(
    private readonly db: Db,
    private readonly keys: readonly string[],
    private readonly now: Instant,
  ) {}

  /** Refuses while one has to wait. */
  async refuse(): Promise<void> {
    for (const { failures, last_at } of await store.failuresOf(this.db, this.keys)) {
      const wait = failures < FREE_FAILURES ? 0 : Math.min(LONGEST_WAIT, 1000 * 2 ** (failures - FREE_FAILURES));
      if (this.now >= last_at + wait) continue;
      const seconds = Math.ceil((last_at + wait - this.now) / 1000);
      throw new ProblemError(
        429,
        'Too many tries',
        `Wait ${seconds} second${seconds === 1 ? '' : 's'}, then try again.`,
      );
    }
  }

  note(): Promise<void> {
    return store.noteFailure(this.db, this.keys, this.now);
  }

  /** After a success the first key begins anew; where it came from is still watched. */
  forget(): Promise<void> {
    return store.forgetFailures(this.db, this.keys.slice(0, 1));
  }
}
