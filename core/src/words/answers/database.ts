import type { Shown } from '../shown.js';

/** What the server says of database: refusals, lines of previews, mails. */
export const say = {
  aheadOf: 'ahead of',
  behind: 'behind',
  clockIsSecondsTheDatabases: (name: Shown, skew: Shown, behind: Shown) =>
    `${name} clock is ${skew} seconds ${behind} the database’s.`,
};
