import type { Shown } from '../shown.js';

/** What the server says of register: refusals, lines of previews, mails. */
export const say = {
  revision: (revision: Shown) => `revision ${revision}`,
};
