import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/tasks`. */
export const say = {
  nothing: 'Nothing.',
  whoDoesIt: 'Who does it',
  nobodyYet: 'nobody yet',
  due: 'Due',
  addIt: 'Add it',
  notNow: 'Not now',
  addATask: 'Add a task',
  overdue: 'overdue, ',
  remove: (text: Shown) => `Remove “${text}”`,
  isRemoved: (text: Shown) => `“${text}” is removed.`,
  are: (overdue: Shown) => `${overdue} are`,
  oneIs: '1 is',
  overdueWithOverdue: (overdue: Shown) => `${overdue} overdue.`,
  nothingIsOverdue: 'Nothing is overdue.',
  whose: 'Whose',
  mine: (count: Shown) => `Mine ${count}`,
  everyones: (count: Shown) => `Everyone’s ${count}`,
  noTasksAddThemOnA: 'No tasks. Add them on a page’s sheet.',
  youHaveNoTasksRightNow: 'You have no tasks right now.',
  doneLately: 'Done lately',
};
