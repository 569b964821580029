import type { TaskView } from '@domatium/contracts';
import { groupBy, type PortfolioId } from '@domatium/core/plan';
import { writeDay, type Instant } from '@domatium/core/time';
import type { Knex } from 'knex';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import { postMail } from '../../platform/mail/index.js';
import { pageName } from '../pages/index.js';
import { regularWork, type Work } from '../../platform/work/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/tasks';

export const tasks = ({ database }: Context, portfolioId: PortfolioId): Promise<TaskView[]> =>
  store.tasksOf(database, portfolioId);

/** Gives a page a task; whoever is to do it gets a mail, unless they gave it to themselves. */
export function newTask(
  context: Context,
  portfolioId: PortfolioId,
  pageId: number,
  fields: store.TaskFields,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const page = await pageName(trx, portfolioId, pageId);
    if (page === null) throw new NotFoundError();
    const id = await store.insertTask(trx, portfolioId, pageId, fields, context.now, context.account);
    await tellPerson(trx, context, portfolioId, page, fields);
    await tell(trx, context, portfolioId, { id, pageId }, 'new-task', undefined, fields);
    return { id };
  });
}

export interface TaskChange extends Partial<store.TaskFields> {
  readonly version: number;
  readonly isDone?: boolean;
}

export function changeTask(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  change: TaskChange,
): Promise<{ version: number }> {
  return inTransaction(context.database, async (trx) => {
    const task = await seenAs(trx, portfolioId, id, change.version);
    const fields = {
      text: change.text ?? task.text,
      personId: change.personId === undefined ? task.personId : change.personId,
      dueDay: change.dueDay === undefined ? task.dueDay : change.dueDay,
    };
    const isDone = change.isDone ?? task.doneAt !== null;
    const at = isDone ? ((task.doneAt as Instant | null) ?? context.now) : null;
    if (fields.personId !== task.personId) await tellPerson(trx, context, portfolioId, task.pageName, fields);
    await store.updateTask(trx, id, fields, { at, by: isDone ? context.account : null });
    await tell(trx, context, portfolioId, task, 'change-task', task, { ...fields, isDone });
    return { version: task.version + 1 };
  });
}

export function removeTask(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const task = await seenAs(trx, portfolioId, id, version);
    await store.deleteTask(trx, id);
    await tell(trx, context, portfolioId, task, 'remove-task', task, undefined);
    return { id };
  });
}

/** One mail a person for what is due today or was before, once a day; gives how many tasks it spoke of. */
export function remindOfDue(database: Knex, now: Instant): Promise<number> {
  return inTransaction(database, async (trx) => {
    const due = await store.dueTasks(trx, now);
    for (const [to, all] of groupBy(due, ({ email }) => email)) {
      const lines = all.map(({ text, page, portfolio, due_day }) => say.due(text, page, portfolio, writeDay(due_day)));
      const subject = all.length === 1 ? say.dueWithText(all[0]?.text ?? '') : say.tasksAreDue(all.length);
      await postMail(trx, { to, subject, body: say.goodMorning(all[0]?.name ?? '', lines.join('\n')) }, now);
    }
    const ids = due.map(({ id }) => id);
    await store.noteReminded(trx, ids, now);
    return due.length;
  });
}

async function seenAs(trx: Db, portfolioId: PortfolioId, id: number, version: number): Promise<TaskView> {
  const task = await store.lockTask(trx, portfolioId, id);
  if (!task) throw new NotFoundError('task');
  if (task.version !== version) throw new StaleError(say.thisTaskHasChangedSinceYou, task);
  return task;
}

async function tellPerson(
  trx: Db,
  { account, now }: Context,
  portfolioId: PortfolioId,
  page: string,
  { text, personId, dueDay }: store.TaskFields,
): Promise<void> {
  if (personId === null) return;
  const person = await store.member(trx, portfolioId, personId);
  if (!person) throw new InvalidError([{ path: 'personId', message: say.thatPersonIsntAMemberOf }]);
  if (personId === account) return;
  const due = dueDay ? say.dueWithDueDay(writeDay(dueDay)) : '';
  const body = say.page(person.name, text, page, due);
  await postMail(
    trx,
    { to: person.email, subject: say.toDo(text), body, path: `/portfolios/${portfolioId}/pages?panel=todo` },
    now,
  );
}

async function tell(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  { id, pageId }: { readonly id: number; readonly pageId: number },
  act: string,
  before: unknown,
  after: unknown,
): Promise<void> {
  await writeAudit(trx, { portfolioId, at: now, accountId: account, act, object: 'task', objectId: id, before, after });
  await notifyEvent(trx, { portfolioId, kind: 'task', pageIds: [pageId], by: account });
}

/** Looks for what is due every few minutes. */
export const remindersWork = (database: Knex, clock: () => Instant): Work =>
  regularWork('reminders', 5 * 60_000, () => remindOfDue(database, clock()));
