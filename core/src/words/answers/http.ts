import type { Shown } from '../shown.js';

/** What the server says of http: refusals, lines of previews, mails. */
export const say = {
  aRequestNamesOneHostRFC: 'A request names one host (RFC 9112, 3.2).',
  sendJSONContent:
    'Send JSON (Content-Type: application/json), or a file as application/octet-stream where one is asked for.',
  sendTheRequestAsItIs: 'Send the request as it is, without compressing it.',
  theRequestCantBeReadIt: 'The request can’t be read. It must be JSON.',
  mb: (limit: Shown) => `${limit} MB`,
  kB: (value: Shown) => `${value} kB`,
  thatIsMoreThanCanBe: (value: Shown) => `That is more than can be sent at once: at most ${value}.`,
  theRequestIsNestedMoreThan: (value: Shown) => `The request is nested more than ${value} deep.`,
  theRequestHoldsMoreThanValues: (most: Shown) => `The request holds more than ${most} values. Send it in parts.`,
  thisRequestComesFromAnotherSite: 'This request comes from another site and is refused.',
  theRequestLacksThisSessionsToken: 'The request lacks this session’s token. Reload the page.',
  nothingIsDecidedByAWrong: (skewWords: Shown) =>
    `${skewWords} Nothing is decided by a wrong clock. Ask whoever runs the server to set it; nothing is lost.`,
  theServers: 'The server’s',
  theDatabaseCantBeReached: 'The database can’t be reached.',
  liveUpdatesAreInterruptedThe: 'Live updates are interrupted; the application catches up later.',
  cantWriteToDiskUploadsAre: (disk: Shown) => `Can’t write to disk (${disk}): uploads are refused, and releases wait.`,
  nothingCanBeReleasedUntilIt: (skewWords: Shown) => `${skewWords} Nothing can be released until it is set.`,
  thatIsTooManyRequestsFor: 'That is too many requests for one person.',
  s: 's',
  waitSecondThenGoOn: (what: Shown, seconds: Shown, s: Shown) => `${what} Wait ${seconds} second${s}, then go on.`,
  yourSessionHasEndedOrYou: 'Your session has ended, or you have not signed in.',
  thePersonCancelled: 'The person cancelled',
  thisPortfolioLetsInOnlyThose:
    'This portfolio lets in only those who sign in with a second factor. Set one up under your account, then sign in again.',
  asYouCantDoThisHere: (role: Shown) => `As ${role} you can’t do this here. Ask a publisher or an owner.`,
  nothingIsLostTryAgainIn: 'Nothing is lost. Try again in a moment; your text is kept.',
  whatYouSentWasNotSaved: 'What you sent was not saved. Whoever runs the server has to free up space; then try again.',
  aTextHoldsACharacterThat: 'A text holds a character that can’t be kept (U+0000). Take it out.',
  aNumberIsOutOfThe: 'A number is out of the range in which numbers are kept.',
  thatIsMoreThanCanBeWithLimit: (limit: Shown) => `That is more than can be sent at once: at most ${limit} MB.`,
  thisIsOurFaultItHas: 'This is our fault; it has been logged.',
  theRequestMustBeAJSON: 'The request must be a JSON object.',
  somethingInItIsOfA: 'Something in it is of a kind that can’t be read.',
};
