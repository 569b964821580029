import type { Shown } from '../shown.js';

/** What the server says of people: refusals, lines of previews, mails. */
export const say = {
  invitationsADayAreSentFor: (value: Shown) => `${value} invitations a day are sent for a portfolio at most.`,
  youAreInvitedToWorkOn: (
    role: Shown,
    origin: Shown,
    token: Shown,
    value: Shown,
  ) => `You are invited to work on a portfolio in Domatium, as ${role}.

${origin}${token}

The link works once, for ${value} days.
`,
  anInvitation: 'An invitation',
  thisInvitationDoesntExistAskThe: 'This invitation doesn’t exist. Ask the person who invited you for a new link.',
  thisInvitationWasAlreadyUsedSign: 'This invitation was already used. Sign in, or ask for a new link.',
  thisInvitationWasRevokedAskFor: 'This invitation was revoked. Ask for a new link.',
  thisInvitationHasExpiredAskFor: 'This invitation has expired. Ask for a new link.',
  thisLinkIsForTheFirst: 'This link is for the first person of an installation, who names a portfolio too.',
  thisInvitationIsToJoinWith: (email: Shown) => `This invitation is to ${email}. Join with that address.`,
  thisLinkIsToAPortfolio: 'This link is to a portfolio that exists. Join it instead.',
  thisInstallationIsAlreadySetUp: 'This installation is already set up.',
  whoeverOwnsAPortfolioMayMake: 'Whoever owns a portfolio may make another. Ask an owner.',
  onePersonOwnsAtMostPortfolios: (value: Shown) => `One person owns at most ${value} portfolios.`,
  youWouldLockYourselfOutSet: 'You would lock yourself out: set up your own second factor, and sign in with it, first.',
  theLastOwnerMakeSomebodyElse: (value: Shown) => `The last owner ${value}. Make somebody else an owner first.`,
  writeAHostSuchAsWww: 'Write a host such as www.marrowick.example.',
  thatHostLiesUnderNoDomain: 'That host lies under no domain of this portfolio.',
  writeAHostSuchAsWwwToo: 'Write a host such as www.marrowick.example, without a path.',
  unknownTheme: 'Unknown theme.',
  thisPortfolioHasNoHostOf: 'This portfolio has no host of its own.',
  anotherSiteLiesThere: 'Another site lies there.',
  thisHostIsTakenInThis: 'This host is taken in this installation.',
  thatCodeDoesNotAllowThis: 'That code does not allow this host, or was used.',
  thisHostLiesUnderADomain:
    'This host lies under a domain that another portfolio of this installation holds. Ask its owner for a code that allows it.',
};
