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
  sayOfWhichPages: 'Say which pages this rule is about: a domain, a path of a site, a label, a role or one page.',
  unknownPage: 'Choose a page of this portfolio.',
  unknownDomain: 'Choose a domain of this portfolio.',
  unknownLabel: 'No page has this label.',
  aPathBeginsWith: 'A path begins with /, such as /events.',
  thereIsARuleForThese: 'There is a rule for these pages already. Change that one.',
  thisSiteHasSuchAMenu: 'This site has a menu of this name already.',
  aMenuIsNamed: 'Name a menu with small letters, digits and hyphens, such as main.',
  thisCodeRuns: 'This code runs on its pages, or will. Take it off first.',
  thisMenuHoldsTakeItOff: 'This menu is on its pages, or will be. Take it off first.',
  thisRuleHoldsTakeItOff: 'This rule holds, or will. Take it off its pages first.',
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
