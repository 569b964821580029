import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/troubles`. */
export const say = {
  trouble: 'Trouble',
  since: (since: Shown) => `since ${since}`,
  onlyTheFirst: 'Only the first',
  more: (count: Shown) => `${count} more`,
  theServerCantBeReached: 'The server can’t be reached.',
};
