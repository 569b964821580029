import type { Shown } from '../shown.js';

/** What the server says of releases: refusals, lines of previews, mails. */
export const say = {
  itHasBeenUndoneAlready: 'It has been undone already.',
  theSamePage: 'the same page',
  theSame: 'the same',
  theSystem: 'the system',
  cantBeUndoneByOnChanged: (summary: Shown, accountName: Shown, at: Shown, what: Shown) =>
    `Can’t be undone: “${summary}” by ${accountName} on ${at} changed ${what} later. Undo that first.`,
  notFoundPage: (host: Shown, path: Shown) => `${host}${path}, not-found page`,
  whatThisChangesHasChanged:
    'Somebody changed what this rests on while you looked at it. Look again, then press again.',
  theDraftHasBeenChangedSince: 'The draft has been changed since you looked at it. Look again, then press again.',
  pages: (text: Shown, count: Shown) => `${text} (${count} pages)`,
  andMore: (more: Shown, periods: Shown) => `, and ${more} more ${periods}`,
  cantBeUndoneHasBeenDeleted: (deleted: Shown) => `Can’t be undone: ${deleted} has been deleted for ever since.`,
  cantBeUndoneSomethingItChanged: 'Can’t be undone: something it changed has been removed from the stock since.',
  cantBeUndone: (value: Shown) => `Can’t be undone: ${value}`,
  someoneElseHasJustTakenThat:
    'Someone else has just taken that address for a time that overlaps. Look again, then press again.',
};
