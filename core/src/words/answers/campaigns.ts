import type { Shown } from '../shown.js';

/** What the server says of campaigns: refusals, lines of previews, mails. */
export const say = {
  pages: (count: Shown) => `${count} pages`,
  onePage: '1 page',
  hasGiveThemAnotherCampaignFirst: (name: Shown, count: Shown) =>
    `${name} has ${count}. Give them another campaign first, or none.`,
  aCampaignRunsAgainInIts: 'A campaign runs again in its own portfolio.',
  hasBeenChangedSinceYouLooked: (name: Shown) => `${name} has been changed since you looked. Look again.`,
  thatPersonIsntAMemberOf: 'That person isn’t a member of this portfolio.',
  aCampaignWithThatNameAlready: 'A campaign with that name already exists.',
};
