/** What the record tells apart. */
export const RECORD_KINDS = [
  'visitors',
  'drafts',
  'pages',
  'prepared',
  'stock',
  'remarks',
  'tasks',
  'campaigns',
  'people',
] as const;
export type RecordKind = (typeof RECORD_KINDS)[number];

type Values = Readonly<Record<string, unknown>>;
/** What an act found, and what it made. */
export interface Recorded {
  readonly before: Values;
  readonly after: Values;
  /** How many things it was done to at once. */
  readonly count: number;
  /** Names by identity, as they are now. */
  readonly campaign: (id: unknown) => string;
  readonly person: (id: unknown) => string;
}

const text = (value: unknown): string => (typeof value === 'string' || typeof value === 'number' ? String(value) : '');
const quoted = (value: unknown): string => `“${text(value)}”`;
const list = (value: unknown): readonly string[] => (Array.isArray(value) ? value.map(text) : []);

/** From where to where: owner, campaign and labels of a page, or of many at once. */
function arranged({ before, after, count, campaign, person }: Recorded): string {
  const change = (what: string, from: unknown, to: unknown, nameOf: (id: unknown) => string) =>
    from === to ? [] : [count === 1 ? `${what} from ${nameOf(from)} to ${nameOf(to)}` : `${what} to ${nameOf(to)}`];
  const [had, has] = [list(before['labels']), list(after['labels'])];
  const [gained, lost] = [has.filter((one) => !had.includes(one)), had.filter((one) => !has.includes(one))];
  const parts = [
    ...change('owner', before['ownerId'], after['ownerId'], person),
    ...change('campaign', before['campaignId'], after['campaignId'], campaign),
    ...(gained.length ? [`labels ${gained.join(', ')} added`] : []),
    ...(lost.length ? [`labels ${lost.join(', ')} taken away`] : []),
  ].join('; ');
  return parts ? parts.charAt(0).toUpperCase() + parts.slice(1) : 'Left owner, campaign and labels as they were';
}

/** What was done, by the name of the act. Of releases their own summary says it. */
const RECORD: Readonly<Record<string, (recorded: Recorded) => string>> = {
  'new-page': ({ after }) => `Made the page at ${text(after['path'])}`,
  copy: () => 'Made it as a copy',
  import: ({ before }) => (text(before['name']) ? 'Changed it by a list' : 'Made it from a list'),
  rename: ({ before, after }) => `Renamed it from ${quoted(before['name'])} to ${quoted(after['name'])}`,
  template: ({ after }) => (after['isTemplate'] ? 'Made it a template' : 'Made it no template any more'),
  arrange: arranged,
  delete: () => 'Deleted it for ever',
  'accept-finding': ({ after }) => `Accepted ${quoted(after['title'])} because ${quoted(after['reason'])}`,
  'withdraw-acceptance': ({ after }) => `No longer accepted ${quoted(after['title'])}`,
  'place-piece': ({ count }) => `Placed a piece in ${count === 1 ? 'a draft' : `${count} drafts`}`,
  'fill-drafts': ({ count }) => `Set texts or search in ${count === 1 ? 'a draft' : `${count} drafts`}`,
  'mend-drafts': ({ count }) => `Mended what was found in ${count === 1 ? 'a draft' : `${count} drafts`}`,
  // As it was noted before it was said of all that is done to many drafts.
  'place-back': ({ count }) => `Took back the placing of a piece in ${count === 1 ? 'a draft' : `${count} drafts`}`,
  'drafts-back': ({ count }) => `Took back a change of ${count === 1 ? 'a draft' : `${count} drafts`}`,
  'save-draft': ({ count }) => (count === 1 ? 'Edited the draft' : `Edited the draft, saved ${count} times`),
  'name-revision': ({ after }) => `Named a state ${quoted(after['name'])}`,
  prepare: () => 'Prepared it',
  'change-prepared': () => 'Changed what is prepared',
  'approve-prepared': () => 'Approved it',
  'say-of-prepared': () => 'Said something about it',
  'send-back-prepared': () => 'Sent it back',
  'press-prepared': () => 'Released it',
  'drop-prepared': ({ before }) => `Dropped ${quoted(before['name'])}`,
  'new-stock': () => 'Made it',
  'save-stock': () => 'Edited its draft',
  'remove-stock': () => 'Removed it',
  'new-picture': () => 'Brought the picture in',
  'replace-picture': () => 'Put another file in its place',
  'put-back-picture': () => 'Put it back',
  'set-picture': () => 'Changed its name or description',
  'crop-picture': () => 'Cut a part out of it',
  'delete-picture': () => 'Deleted the picture',
  'new-file': () => 'Brought the file in',
  'replace-file': () => 'Put another file in its place',
  'put-back-file': () => 'Put it back',
  'set-file': () => 'Renamed the file',
  'delete-file': () => 'Deleted the file',
  share: ({ after }) => `Shared it by the private link ${quoted(after['name'])}`,
  'revoke-share': () => 'Ended a private link',
  remark: ({ after }) => `A remark came by the private link ${quoted(after['link'])}`,
  'answer-remark': ({ after }) =>
    after['link'] ? `An answer came by the private link ${quoted(after['link'])}` : 'Answered a remark',
  'settle-remark': () => 'Settled a remark',
  'new-task': () => 'Made a task',
  'change-task': ({ before, after }) => (after['isDone'] && !before['doneAt'] ? 'Did a task' : 'Changed a task'),
  'remove-task': () => 'Removed a task',
  'new-campaign': () => 'Made the campaign',
  'change-campaign': ({ before, after }) =>
    before['name'] === after['name']
      ? 'Changed the campaign'
      : `Renamed the campaign from ${quoted(before['name'])} to ${quoted(after['name'])}`,
  'remove-campaign': ({ before }) => `Removed the campaign ${quoted(before['name'])}`,
  invite: ({ after }) => `Invited ${text(after['email'])} as ${text(after['role'])}`,
  'revoke-invitation': () => 'Withdrew an invitation',
  join: ({ after }) => `Joined as ${text(after['role'])}`,
  'set-role': ({ after }) => `Changed their role from ${text(after['was'])} to ${text(after['role'])}`,
  'remove-person': () => 'Removed them',
  'wants-factor': ({ after }) =>
    after['isWanted'] ? 'Asked everybody for a second factor' : 'No longer asks for a second factor',
  'keep-days': ({ after }) =>
    after['days'] ? `What visitors got is kept for ${text(after['days'])} days` : 'What visitors got is kept for good',
  'new-portfolio': () => 'Made the portfolio',
  'set-portfolio': ({ before, after }) =>
    [
      ...(before['name'] === after['name']
        ? []
        : [`Renamed the portfolio from ${quoted(before['name'])} to ${quoted(after['name'])}`]),
      ...(before['zone'] === after['zone']
        ? []
        : [`Changed its zone from ${text(before['zone'])} to ${text(after['zone'])}`]),
    ].join('; ') || 'Left the portfolio as it was',
  'allow-host': ({ after }) => `Allowed the host ${text(after['host'])}`,
  'new-site': ({ after }) => `Made the site ${quoted(after['name'])}`,
  'set-site': ({ before, after }) => `Renamed the site from ${quoted(before['name'])} to ${quoted(after['name'])}`,
  'set-rules': () => 'Changed the rules of a site',
};

/** What was done, in words; of an act nobody knows any more, its name. */
export const recordWords = (act: string, recorded: Recorded): string => RECORD[act]?.(recorded) ?? act;
/** The acts that have words. */
export const RECORDED_ACTS: readonly string[] = Object.keys(RECORD);
