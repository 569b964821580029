import { boolean, number, object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id, trim } from './fields.js';
import { inPortfolio, onPage } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

export interface TaskView {
  readonly id: number;
  readonly version: number;
  readonly pageId: number;
  readonly pageName: string;
  readonly text: string;
  readonly personId: number | null;
  readonly person: string | null;
  /** The day it is due, `YYYY-MM-DD`. */
  readonly dueDay: string | null;
  readonly doneAt: number | null;
  readonly madeBy: string | null;
}

const text = () => string().transform(trim).required(say.describeTheTask).max(500, say.atMost500Characters);
const dueDay = () =>
  string()
    .nullable()
    // A field that was emptied.
    .transform((value: unknown) => (value === '' ? null : value))
    .matches(/^\d{4}-\d\d-\d\d$/, say.enterADate)
    .test('day', say.thatDayDoesntExist, (value) => !value || !Number.isNaN(Date.parse(`${value}T00:00Z`)));
const personId = () => number().integer().positive().nullable();
const onTask = object({ portfolioId: id(), taskId: id() });
const version = () => number().integer().positive().required(say.theVersionIsMissing);

export const newTaskBody = object({
  text: text(),
  personId: personId().default(null),
  dueDay: dueDay().default(null),
}).noUnknown(say.unknownField);

export const tasks = {
  tasks: endpoint<readonly TaskView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/tasks',
    who: 'read',
    summary: 'Tasks of all pages: open ones by their day, then the latest 200 that are done',
    params: inPortfolio,
  }),
  newTask: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/pages/:pageId/tasks',
    who: 'write',
    summary: 'Give a page a task; whoever is to do it gets a mail',
    params: onPage,
    body: newTaskBody,
  }),
  changeTask: endpoint<{ readonly version: number }>()({
    method: 'PATCH',
    path: '/api/portfolios/:portfolioId/tasks/:taskId',
    who: 'write',
    summary: 'Change a task, or say that it is done or not',
    params: onTask,
    body: object({
      version: version(),
      text: string().transform(trim).min(1, say.describeTheTask).max(500, say.atMost500Characters).optional(),
      personId: personId().optional(),
      dueDay: dueDay().optional(),
      isDone: boolean().optional(),
    }).noUnknown(say.unknownField),
  }),
  removeTask: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/tasks/:taskId/remove',
    who: 'write',
    summary: 'Remove a task',
    params: onTask,
    body: object({ version: version() }).noUnknown(say.unknownField),
  }),
};
