import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/hub`. */
export const say = {
  noConnection: 'No connection',
  domatiumCantBeReachedRightNow: 'Domatium can’t be reached right now. Your text is kept; try again in a moment.',
  dismiss: 'Dismiss',
  accepted: 'Accepted: it blocks no release and counts no more.',
  countsAgain: 'It counts again.',
  aReleaseCouldntBePublishedAnd: 'A release couldn’t be published and was undone. See the page’s history.',
  thisSiteIsNotKnownHere: 'This site is not known here yet. Try again in a moment.',
  thisField: 'this field',
  someoneKeptTheirTextOverYours:
    'Somebody kept their text over yours in a draft. What you had written is kept for you.',
  readWhatYouHadWritten: 'Read it',
  tooLongToPaste: (label: Shown, length: number, room: number) =>
    `Nothing was pasted: that is ${length} characters, and ${label} has room for ${room}.`,
  theDraftOfHasChangedVisitors: (name: Shown) =>
    `The draft of ${name} has changed; visitors get it once it is put on its pages.`,
};
