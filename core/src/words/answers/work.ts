import type { Shown } from '../shown.js';

/** What the server says of work: refusals, lines of previews, mails. */
export const say = {
  itIsTriedAgainUntilIt: (said: Shown) => `${said} It is tried again until it succeeds.`,
};
