/** What can be looked for in vain. */
export const THINGS = {
  account: 'account',
  calendar: 'calendar',
  campaign: 'campaign',
  endpoint: 'endpoint',
  feed: 'feed of yours',
  file: 'file',
  'in-the-stock': 'thing in the stock',
  invitation: 'open invitation',
  member: 'member',
  page: 'page',
  picture: 'picture',
  portfolio: 'portfolio',
  'prepared-release': 'prepared release',
  'private-link': 'private link',
  release: 'release',
  remark: 'open remark',
  site: 'site',
  state: 'state',
  task: 'task',
  view: 'view of yours',
};
export type Thing = keyof typeof THINGS;

/** What the server says of platform: refusals, lines of previews, mails. */
export const say = {
  thereIsNoSuchHere: (what: Thing) => `There is no such ${THINGS[what]} here.`,
};
