import type { Shown } from '../shown.js';

/** What the server says of stock: refusals, lines of previews, mails. */
export const say = {
  unknownTheme: 'Unknown theme.',
  everySiteHasItsProfileAlready: 'Every site has its profile already.',
  unknownSite: 'Unknown site.',
  unknownPart: 'Choose one of the parts of this portfolio.',
  chooseTheSiteThisCSS: 'Choose the site this CSS is for.',
  thisThemeHasBeenChangedHere: 'This theme has been changed here already.',
  thisSiteAlreadyHasItsOwn: 'This site already has its own.',
  someoneElse: 'Someone else',
  hasChangedThisSinceYouOpened: (changedBy: Shown) => `${changedBy} has changed this since you opened it.`,
  thisIsWhatTheSiteIs: 'This is what the site is; it goes with the site.',
  thisBelongsToItsSiteOr: 'This belongs to its site or portfolio. Empty it, and put that on its pages.',
  andMore: (count: Shown) => ` and ${count} more`,
  uses: 'uses',
  use: 'use',
  itUnlinkItThereFirstOr: (users: Shown, count: Shown, use: Shown) =>
    `${users}${count} ${use} it. Unlink it there first, or choose another.`,
};
