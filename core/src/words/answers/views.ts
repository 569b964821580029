import type { Shown } from '../shown.js';

/** What the server says of views: refusals, lines of previews, mails. */
export const say = {
  pagesOverTime: 'Pages over time',
  page: (id: Shown) => `page ${id}`,
};
