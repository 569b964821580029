import type { Shown } from '../shown.js';

/** What the server says of publishing: refusals, lines of previews, mails. */
export const say = {
  whatStandsAroundCantBeDrawn: (host: Shown, why: Shown) =>
    `What stands around the pages of ${host} can’t be drawn; visitors keep what was there before. (${why})`,
  releasesCantBePublishedRightNow: 'Releases can’t be published right now; visitors keep what they had.',
};
