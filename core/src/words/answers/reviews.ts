import type { Shown } from '../shown.js';

/** What the server says of reviews: refusals, lines of previews, mails. */
export const say = {
  saidSomethingOf: (name: Shown) => `${name} said something`,
  answeredARemark: (name: Shown) => `${name} answered a remark`,
  onPage: (what: Shown, page: Shown) => `${what} of “${page}”`,
  chooseWhenItEnds: 'Choose when it ends.',
  choosePagesOrASite: 'Choose pages, or a site.',
  chooseAnEndWithinTheNext: 'Choose an end within the next year.',
  oneOfThesePagesIsntIn: 'One of these pages isn’t in this portfolio.',
  thatSiteIsntInThisPortfolio: 'That site isn’t in this portfolio.',
  thatIsntThePasswordForThis: 'That isn’t the password for this link.',
  thePageHasChangedSinceYou: 'The page has changed since you opened it. Reload it; what you wrote is kept.',
  thatPartOfThePageIs: 'That part of the page is no longer there.',
  thisPageHasTooManyOpen:
    'This page has too many open comments from this link. More can be added once some are resolved.',
  thisLinkHasReachedItsLimit: 'This link has reached its limit of comments.',
  itNoLongerOpensAnythingAsk: 'It no longer opens anything. Ask the sender for a new one.',
  thisLinkNeedsAPassword: 'This link needs a password.',
  changed: 'changed',
  removed: 'removed',
  isNew: 'new',
};
