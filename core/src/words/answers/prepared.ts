import type { Shown } from '../shown.js';

/** What the server says of prepared: refusals, lines of previews, mails. */
export const say = {
  somethingRemoved: 'something removed',
  youPreparedThisYourselfSomeoneElse: 'You prepared this yourself; someone else has to approve it.',
  itsTimePassedOnBeforeIt: (now: Shown) =>
    `Its time passed on ${now} before it was released, so nothing of it went live. Choose other times, then release it.`,
  preparedRelease: 'prepared release',
  someoneElse: 'Someone else',
  hasChangedThisSinceYouLooked: (changedBy: Shown) =>
    `${changedBy} has changed this since you looked at it. Look again.`,
};
