/** What the server says of accounts: refusals, lines of previews, mails. */
export const say = {
  youAreNotSignedIn: 'You are not signed in.',
  thisInstallationSendsNoMailAsk:
    'This installation sends no mail. Ask an owner of your portfolio for a new invitation, or whoever runs the server.',
};
