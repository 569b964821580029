/** What the server says of thumbnails: refusals, lines of previews, mails. */
export const say = {
  pageThumbnailsNeedChromiumWhich: 'Page thumbnails need Chromium, which isn’t installed on this machine.',
  theThumbnailOfThisPageCouldnt: 'The thumbnail of this page couldn’t be made.',
};
