import type { Shown } from '../shown.js';

/** What the server says of sessions: refusals, lines of previews, mails. */
export const say = {
  thatIsntYourPassword: 'That isn’t your password.',
  somebodyYouWeHopeWantsA: (
    email: Shown,
    origin: Shown,
    token: Shown,
    value: Shown,
  ) => `Somebody, you we hope, wants a new password for ${email} in Domatium.

${origin}/new-password/${token}

The link works once, for ${value} hours. If it was not you, leave it: nothing has changed.
`,
  aNewPassword: 'A new password',
  itWasUsedOrHasEnded: 'It was used, or has ended. Ask for a new one.',
  itWasUsedJustNowSign: 'It was used just now. Sign in.',
  youHaveASecondFactorAlready: 'You have a second factor already. End that one first.',
  beginWithTheSecretFirst: 'Begin with the secret first.',
  thatCodeIsNotRightIs: 'That code is not right. Is the clock of your telephone?',
  tryAgainInAMoment: 'Try again in a moment.',
  thatEMailAddressAndPassword: 'That e-mail address and password don’t belong together.',
  writeTheCodeOfYourAuthenticator: 'Write the code of your authenticator.',
  thatCodeIsNotRightOr: 'That code is not right, or was used. Wait for the next one.',
  s: 's',
  waitSecondThenTryAgain: (seconds: Shown, s: Shown) => `Wait ${seconds} second${s}, then try again.`,
};
