import type { Shown } from '../shown.js';

/** What the server says of drafts: refusals, lines of previews, mails. */
export const say = {
  someoneElse: 'Someone else',
  hasChangedThisPageSinceYou: (changedBy: Shown) => `${changedBy} has changed this page since you opened it.`,
  draftsHaveChanged: (names: readonly string[]) =>
    names.length === 1
      ? `The draft of ${names[0]} has been changed since you looked. Look again.`
      : `The drafts of ${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''} have been changed since you looked. Look again.`,
  theDraftHasBeenChangedSince: 'The draft has been changed since you looked at it.',
};
