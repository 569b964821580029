/** What the server says of events: refusals, lines of previews, mails. */
export const say = {
  tooManyWindowsAreOpenThis: 'Too many windows are open; this one gets no live updates.',
};
