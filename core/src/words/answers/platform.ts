import type { Shown } from '../shown.js';

/** What the server says of platform: refusals, lines of previews, mails. */
export const say = {
  thereIsNoSuchHere: (what: Shown) => `There is no such ${what} here.`,
};
