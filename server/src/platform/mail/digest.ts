import { groupBy } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/answers/mail';
import type { Knex } from 'knex';
import { dateOf, inTransaction, rowsOf } from '../database/context.js';
import { regularWork, type Work } from '../work/index.js';
import { postMail } from './index.js';

/** The hour of the day, in the portfolio's zone, at which those who want one mail a day get it. */
const HOUR = 7;

/** One mail a person and portfolio of what has gathered since the last morning; gives how many mails there were. */
export function mailDigests(database: Knex, now: Instant): Promise<number> {
  return inTransaction(database, async (trx) => {
    const lines = await rowsOf<{
      id: number;
      email: string;
      name: string;
      portfolio: string;
      text: string;
      path: string;
    }>(
      trx,
      `DELETE FROM mail_line l USING account a, portfolio p
      WHERE a.id = l.account_id AND p.id = l.portfolio_id AND l.at < (
        date_trunc('day', (?::timestamptz AT TIME ZONE p.zone) - make_interval(hours => ?)) + make_interval(hours => ?)) AT TIME ZONE p.zone
      RETURNING l.id, a.email, a.name, p.name AS portfolio, l.text, l.path`,
      [dateOf(now), HOUR, HOUR],
    );
    const mails = groupBy(
      lines.sort((a, b) => a.id - b.id),
      ({ email, portfolio }) => `${email} ${portfolio}`,
    );
    for (const all of mails.values()) {
      const [first] = all;
      if (!first) continue;
      const body = say.thisHappenedSinceYesterday(
        first.name,
        all.map(({ text, path }) => say.line(text, path)).join('\n'),
      );
      const subject = say.sinceYesterdayIn(first.portfolio, all.length);
      await postMail(trx, { to: first.email, subject, body }, now);
    }
    return mails.size;
  });
}

export const digestWork = (database: Knex, clock: () => Instant): Work =>
  regularWork('digests', 10 * 60_000, () => mailDigests(database, clock()));
