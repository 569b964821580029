import { writeInstant, DAY, later, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/answers/tasks';
import type { Knex } from 'knex';
import { dateOf, inTransaction, rowsOf } from '../../platform/database/context.js';
import { tellByMail } from '../../platform/mail/index.js';
import { regularWork, type Work } from '../../platform/work/index.js';

interface Ending {
  readonly page_id: number;
  readonly name: string;
  readonly portfolio_id: number;
  readonly owner_id: number;
  readonly until_at: Instant;
  readonly zone: string;
}

/** Tells owners of pages that come off within a day, each end once; gives how many there were. */
export function tellOfEnds(database: Knex, now: Instant): Promise<number> {
  return inTransaction(database, async (trx) => {
    const ending = await rowsOf<Ending>(
      trx,
      `WITH ending AS (
        INSERT INTO end_told (page_id, until_at)
        SELECT q.page_id, q.until_at FROM period q JOIN page p ON p.id = q.page_id
        WHERE q.during @> ?::timestamptz AND q.until_at <= ? AND p.owner_id IS NOT NULL AND p.deleted_at IS NULL
          AND NOT EXISTS (SELECT FROM period n WHERE n.page_id = q.page_id AND n.from_at = q.until_at)
        ON CONFLICT DO NOTHING RETURNING page_id, until_at)
      SELECT e.page_id, e.until_at, p.name, p.portfolio_id, p.owner_id, f.zone FROM ending e JOIN page p ON p.id = e.page_id
      JOIN portfolio f ON f.id = p.portfolio_id ORDER BY e.until_at`,
      [dateOf(now), dateOf(later(now, DAY))],
    );
    for (const { page_id, name, portfolio_id, owner_id, until_at, zone } of ending) {
      const text = say.comesOff(name, writeInstant(until_at, zone, now));
      const path = `/portfolios/${portfolio_id}/pages?page=${page_id}`;
      await tellByMail(trx, [owner_id], { portfolioId: portfolio_id, text, path }, now);
    }
    return ending.length;
  });
}

export const endsWork = (database: Knex, clock: () => Instant): Work =>
  regularWork('ends', 10 * 60_000, () => tellOfEnds(database, clock()));
