import type { Shown } from '../shown.js';

/** What the server says of drafts: refusals, lines of previews, mails. */
export const say = {
  someoneElse: 'Someone else',
  hasChangedThisPageSinceYou: (changedBy: Shown) => `${changedBy} has changed this page since you opened it.`,
  isNotInThisPortfolio: (table: Shown) => `${table} is not in this portfolio.`,
  thePageThisLinkPointsTo: 'The page this link points to',
  thisPicture: 'This picture',
  aFileOfThisPage: 'A file of this page',
  aPieceOfThisPage: 'A piece of this page',
  theDraftHasBeenChangedSince: 'The draft has been changed since you looked at it.',
};
