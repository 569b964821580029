import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/source`. */
export const say = {
  line: (line: Shown, message: Shown) => `Line ${line}: ${message}`,
  overrides: 'overrides',
};
