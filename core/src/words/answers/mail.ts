import type { Shown } from '../shown.js';

/** What mails say that are not of one feature alone. */
export const say = {
  sinceYesterdayIn: (portfolio: Shown, count: number) =>
    count === 1 ? `${portfolio}: one thing happened` : `${portfolio}: ${count} things happened`,
  thisHappenedSinceYesterday: (name: Shown, lines: Shown) => `Good morning ${name},\n\n${lines}`,
  line: (text: Shown, path: Shown) => `- ${text}\n  {application}${path}`,
};
