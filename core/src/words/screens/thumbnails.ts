import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/thumbnails`. */
export const say = {
  asVisitorsSeeIt: (name: Shown) => `${name}, as visitors see it`,
  makingTheThumbnail: 'Making the thumbnail…',
  visitorsGet: (value: Shown) => `Visitors get: ${value}`,
};
