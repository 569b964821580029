import type { Shown } from '../shown.js';

/** What the interface says: `web/src/app/session`. */
export const say = {
  whatVisitorsGetAtEveryAddress: 'What visitors get, at every address, at any moment.',
  eMailAddress: 'E-mail address',
  authenticatorCodeOrARecoveryCode: 'Authenticator code, or a recovery code',
  signIn: 'Sign in',
  forgotPassword: 'Forgot password',
  on: (name: Shown, system: Shown) => `${name} on ${system}`,
  passwordChangedYouAreSignedOut: 'Password changed. You are signed out everywhere else.',
  yourAccount: 'Your account',
  secondFactor: 'Second factor',
  secondFactorIsOnUseThese:
    'Second factor is on. Use these codes if you lose your phone, each once. They are shown only now: save them somewhere safe.',
  iHaveSavedThem: 'I have saved them',
  scanThisWithYourAuthenticatorApp:
    'Scan this with your authenticator app, or enter its key; then enter the code it shows.',
  qRCodeOfTheKey: 'QR code of the key below',
  codeOfTheAuthenticator: 'Code of the authenticator',
  putInForce: 'Put in force',
  inForceSinceOf10RecoveryCodes: (since: Shown, recoveryCodes: Shown) =>
    `In force since ${since}; ${recoveryCodes} of 10 recovery codes left.`,
  signingInNeedsOnlyYourPassword:
    'Signing in needs only your password. With an authenticator app, a stolen password isn’t enough.',
  yourPassword: 'Your password',
  setUp: 'Set up',
  turnOffTheSecondFactor: 'Turn off the second factor',
  theOneYouHave: 'The one you have',
  thePasswordYouHave: 'The password you have',
  theNewOne: 'The new one',
  theNewPassword: 'The new password',
  atLeast10CharactersYouWillBe: 'At least 10 characters. You will be signed out everywhere else.',
  whereYouAreSignedIn: 'Where you are signed in',
  thisOne: 'this one',
  used: (seenAt: Shown) => `used ${seenAt}`,
  since: (since: Shown) => `since ${since}`,
  signOut: 'Sign out',
  signOutEverywhereElse: 'Sign out everywhere else',
  aNewPassword: 'A new password',
  takeIt: 'Take it',
  sendTheLink: 'Send the link',
  aLinkIsOnItsWay: 'If that address has an account, a link is on its way. It works once, for two hours.',
  passwordChangedSignIn: 'Password changed; all sessions ended. Sign in with the new one.',
};
