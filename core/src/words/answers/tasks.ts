import type { Shown } from '../shown.js';

/** What the server says of tasks: refusals, lines of previews, mails. */
export const say = {
  comesOff: (page: Shown, when: Shown) => `“${page}” comes off ${when}`,
  due: (text: Shown, page: Shown, portfolio: Shown, dueDay: Shown) => `- ${text}
  ${page} (${portfolio}), due ${dueDay}`,
  dueWithText: (text: Shown) => `Due: ${text}`,
  tasksAreDue: (count: Shown) => `${count} tasks are due`,
  goodMorning: (name: Shown, lines: Shown) => `Good morning ${name},

${lines}
`,
  thisTaskHasChangedSinceYou: 'This task has changed since you opened it. Reload and try again.',
  thatPersonIsntAMemberOf: 'That person isn’t a member of this portfolio.',
  dueWithDueDay: (dueDay: Shown) => `
Due ${dueDay}.`,
  page: (name: Shown, text: Shown, page: Shown, due: Shown) => `${name},

${text}
Page: ${page}.${due}
`,
  toDo: (text: Shown) => `To do: ${text}`,
};
