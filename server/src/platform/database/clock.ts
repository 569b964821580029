import { instant, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { rowsOf } from './context.js';
import { say } from '@domatium/core/words/answers/database';

/** A clock that is further off the database's than this, in milliseconds, calls another moment *now*. */
export const MOST_SKEW = 2_000;

/** This machine's clock beside the database's, which says what instants mean. */
export class DatabaseClock {
  /** By how many milliseconds this machine's clock is ahead, as of the last time it was asked. */
  skew = 0;

  constructor(private readonly database: Knex) {}

  /** Asks the database; an answer that took too long says nothing. Throws where the database is away. */
  async ask(): Promise<void> {
    const asked = Date.now();
    const [row] = await rowsOf<{ now: string }>(
      this.database,
      'SELECT extract(epoch FROM clock_timestamp()) * 1000 AS now',
    );
    const way = Date.now() - asked;
    if (row && way < MOST_SKEW) this.skew = asked + way / 2 - Number(row.now);
  }

  get isOff(): boolean {
    return Math.abs(this.skew) > MOST_SKEW;
  }

  /** This machine's clock, or where that is off the database's. */
  readonly now = (): Instant => instant(Math.round(this.isOff ? Date.now() - this.skew : Date.now()));

  words(name: string): string {
    return say.clockIsSecondsTheDatabases(
      name,
      Math.round(Math.abs(this.skew) / 1000),
      this.skew > 0 ? say.aheadOf : say.behind,
    );
  }
}
