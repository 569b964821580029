import type { Shown } from '../shown.js';

/** What the server says of prepared: refusals, lines of previews, mails. */
export const say = {
  wantsAnApproval: (name: Shown, by: Shown) => `${by} prepared “${name}”: it wants an approval`,
  isSentBack: (name: Shown) => `“${name}” was sent back`,
  wasSpokenOf: (name: Shown) => `Something was said of “${name}”`,
  isApproved: (name: Shown) => `“${name}” was approved`,
  onlyWhoMayApproveSendsItBack: 'Only somebody else who may release can send it back.',
  somethingRemoved: 'something removed',
  youPreparedThisYourselfSomeoneElse: 'You prepared this yourself; someone else has to approve it.',
  itsTimePassedOnBeforeIt: (when: Shown) =>
    `Its time passed on ${when} before it was released, so nothing of it went live. Choose other times, then release it.`,
  someoneElse: 'Someone else',
  hasChangedThisSinceYouLooked: (changedBy: Shown) =>
    `${changedBy} has changed this since you looked at it. Look again.`,
};
