import type { Shown } from '../shown.js';

/** What the server says of copies: refusals, lines of previews, mails. */
export const say = {
  chooseASiteOfThatPortfolio: 'Choose a site of that portfolio.',
  thatSiteIsntInThatPortfolio: 'That site isn’t in that portfolio.',
  itsNameWouldBeEmpty: 'Its name would be empty.',
  itsNameWouldBeLongerThan: 'Its name would be longer than 200 characters.',
  anotherCopyWouldHaveTheSame: 'Another copy would have the same address.',
  asYouCantMakePagesThere: (role: Shown) => `As ${role} you can’t make pages there. Ask an author or an owner.`,
  thatCampaignIsntInThatPortfolio: 'That campaign isn’t in that portfolio.',
  pages: (count: Shown) => `${count} pages`,
  copiedOn: (count: Shown, zone: Shown) => `${count}, copied on ${zone}`,
  partOfSite: (part: Shown, site: Shown) => `${part} · ${site}`,
  siteLike: (site: Shown) => `${site}: its frame, menus and looks`,
  tooManyPagesOfASite: (most: Shown) =>
    `This site has more than ${most} pages. Copy the site without them, then its pages in parts.`,
  thereIsNoSuchThere: (kind: Shown) => `There is no such ${kind} there.`,
};
