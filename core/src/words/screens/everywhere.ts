import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/everywhere`. */
export const say = {
  pagesOfAllPortfolios: 'Pages of all portfolios',
  everyPageWhereYouWork: (portfolios: Shown) => `Every page of the ${portfolios} portfolios you work in.`,
  find: 'Find by name or address',
  states: 'State',
  state: {
    all: 'All',
    live: 'Live',
    coming: 'Coming',
    ending: 'Ending soon',
    ended: 'Ended',
    draft: 'Drafts',
  },
  visits: 'Visits',
  whenAndWhere: 'When, in which portfolio',
  liveTo: (end: Shown) => `live to ${end}`,
  liveNoEnd: 'live, no end planned',
  fromOn: (start: Shown) => `from ${start}`,
  ended: (end: Shown) => `ended ${end}`,
  draft: 'draft',
  theFirstOf: (shown: Shown, all: Shown) => `The first ${shown} of ${all}. Type more of what you look for.`,
  noPage: 'No page.',
};
