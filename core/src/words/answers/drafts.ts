import type { Shown } from '../shown.js';

/** What the server says of drafts: refusals, lines of previews, mails. */
export const say = {
  someoneElse: 'Someone else',
  hasChangedThisPageSinceYou: (changedBy: Shown) => `${changedBy} has changed this page since you opened it.`,
  theDraftHasBeenChangedSince: 'The draft has been changed since you looked at it.',
};
