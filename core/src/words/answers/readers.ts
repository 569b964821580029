import type { Shown } from '../shown.js';

/** What the server says of readers: refusals, lines of previews, mails. */
export const say = {
  tryAgainInAMinuteNothing: 'Try again in a minute. Nothing of it was kept.',
  takesTooMuch: (name: Shown, what: Shown) => `${name} takes too much ${what}`,
  endedItsProcess: (name: Shown) => `${name} ended its process`,
};
