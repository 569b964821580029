import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/views`. */
export const say = {
  theWholePortfolio: 'the whole portfolio',
  calendarFeeds: 'Calendar feeds',
  whatGoesLiveAndComesOff:
    'What goes live and comes off in a view, for any calendar that can follow an address. Whoever has the address can read it.',
  made: (parts: Shown, madeAt: Shown) => `${parts} · made ${madeAt}`,
  endIt: 'End it',
  youHaveNoFeedsYet: 'You have no feeds yet.',
  theAddressShownOnlyOnce: 'The address, shown only once:',
  copied: 'Copied',
  copyIt: 'Copy it',
  aFeedOfWhatIsShown: (view: Shown) => `A feed of what is shown now: ${view}`,
  nameOfTheFeed: 'Name of the feed',
  createTheFeed: 'Create the feed',
  view: (name: Shown) => `View${name}`,
  teamBy: (by: Shown) => `team, by ${by}`,
  mine: 'mine',
  removeTheView: (name: Shown) => `Remove the view ${name}`,
  noNamedViewsYet: 'No named views yet.',
  nameForThisView: 'Name for this view',
  forTheTeam: 'for the team',
  keep: 'Keep',
  thisViewAsCSV: 'This view as CSV',
  thisViewAsJSON: 'This view as JSON',
  calendarFeedsToo: 'Calendar feeds…',
  copyTheWholeSite: 'Copy the whole site…',
  shareTheSiteByAPrivate: 'Share the site by a private link…',
  importPagesFromACSV: 'Import pages from a CSV file…',
  theViewIsRemoved: (name: Shown) => `The view “${name}” is removed.`,
  aViewNeedsAName: 'A view needs a name.',
};
