/** What the server says of views: refusals, lines of previews, mails. */
export const say = {
  pagesOverTime: 'Pages over time',
};
