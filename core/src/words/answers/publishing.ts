/** What the server says of publishing: refusals, lines of previews, mails. */
export const say = {
  releasesCantBePublishedRightNow: 'Releases can’t be published right now; visitors keep what they had.',
};
