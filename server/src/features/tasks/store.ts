import type { TaskView } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

const TASK = `SELECT t.id, t.version, t.page_id AS "pageId", p.name AS "pageName", t.text, t.person_id AS "personId", a.name AS person,
  t.due_day::text AS "dueDay", t.done_at AS "doneAt", m.name AS "madeBy" FROM task t JOIN page p ON p.id = t.page_id AND p.deleted_at IS NULL
  LEFT JOIN account a ON a.id = t.person_id LEFT JOIN account m ON m.id = t.made_by`;

/** Open tasks by their day, then the latest that are done. */
export function tasksOf(db: Db, portfolioId: PortfolioId): Promise<TaskView[]> {
  return rowsOf(
    db,
    `(${TASK} WHERE t.portfolio_id = ? AND t.done_at IS NULL ORDER BY t.due_day NULLS LAST, t.id LIMIT 5000)
    UNION ALL (${TASK} WHERE t.portfolio_id = ? AND t.done_at IS NOT NULL ORDER BY t.done_at DESC LIMIT 200)`,
    [portfolioId, portfolioId],
  );
}

/** A task as it is, locked to the end of the transaction. */
export async function lockTask(trx: Db, portfolioId: PortfolioId, id: number): Promise<TaskView | null> {
  await rowsOf(trx, 'SELECT 1 FROM task WHERE portfolio_id = ? AND id = ? FOR UPDATE', [portfolioId, id]);
  const [row] = await rowsOf<TaskView>(trx, `${TASK} WHERE t.portfolio_id = ? AND t.id = ?`, [portfolioId, id]);
  return row ?? null;
}

export interface TaskFields {
  readonly text: string;
  readonly personId: number | null;
  readonly dueDay: string | null;
}

export async function insertTask(
  trx: Db,
  portfolioId: PortfolioId,
  pageId: number,
  { text, personId, dueDay }: TaskFields,
  now: Instant,
  accountId: number | null,
): Promise<number> {
  const [row] = (await trx('task')
    .insert({
      portfolio_id: portfolioId,
      page_id: pageId,
      text,
      person_id: personId,
      due_day: dueDay,
      made_at: dateOf(now),
      made_by: accountId,
    })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A task was not written');
  return row.id;
}

export async function updateTask(
  trx: Db,
  id: number,
  { text, personId, dueDay }: TaskFields,
  done: { readonly at: Instant | null; readonly by: number | null },
): Promise<void> {
  await trx('task')
    .where({ id })
    .update({
      text,
      person_id: personId,
      due_day: dueDay,
      done_at: dateOf(done.at),
      done_by: done.by,
      version: trx.raw('version + 1'),
    });
}

export async function deleteTask(trx: Db, id: number): Promise<void> {
  await trx('task').where({ id }).delete();
}

export interface Member {
  readonly id: number;
  readonly name: string;
  readonly email: string;
}

export async function member(db: Db, portfolioId: PortfolioId, id: number): Promise<Member | null> {
  const [row] = await rowsOf<Member>(
    db,
    'SELECT a.id, a.name, a.email FROM account a JOIN membership m ON m.account_id = a.id WHERE m.portfolio_id = ? AND a.id = ?',
    [portfolioId, id],
  );
  return row ?? null;
}

export interface DueTask {
  readonly id: number;
  readonly text: string;
  readonly page: string;
  readonly portfolio: string;
  readonly due_day: string;
  readonly name: string;
  readonly email: string;
}

/** From seven in the morning of their portfolio on: open tasks of members that are due, of which nobody was told today. */
export function dueTasks(trx: Db, now: Instant): Promise<DueTask[]> {
  return rowsOf(
    trx,
    `SELECT t.id, t.text, p.name AS page, f.name AS portfolio, t.due_day::text AS due_day, a.name, a.email
    FROM task t JOIN page p ON p.id = t.page_id AND p.deleted_at IS NULL JOIN portfolio f ON f.id = t.portfolio_id
    JOIN account a ON a.id = t.person_id JOIN membership m ON m.account_id = a.id AND m.portfolio_id = t.portfolio_id
    CROSS JOIN LATERAL (SELECT ?::timestamptz AT TIME ZONE f.zone AS wall) w
    WHERE t.done_at IS NULL AND t.due_day <= w.wall::date AND (t.reminded_on IS NULL OR t.reminded_on < w.wall::date)
    AND extract(hour FROM w.wall) >= 7 ORDER BY a.email, t.due_day, t.id LIMIT 1000 FOR UPDATE OF t SKIP LOCKED`,
    [dateOf(now)],
  );
}

export async function noteReminded(trx: Db, ids: readonly number[], now: Instant): Promise<void> {
  await rowsOf(
    trx,
    'UPDATE task t SET reminded_on = (?::timestamptz AT TIME ZONE f.zone)::date FROM portfolio f WHERE f.id = t.portfolio_id AND t.id = ANY(?)',
    [dateOf(now), ids],
  );
}
