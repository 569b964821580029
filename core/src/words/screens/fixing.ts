/** What the interface says: `web/src/app/fixing`. */
export const say = {
  toFix: 'To fix',
  nothing: 'Nothing to fix. Whatever checks find in drafts and live pages is listed here.',
  looking: 'Looking…',
  judging: 'Judging the pages that are live then',
  cancelled: 'Cancelled. Move the rail’s handle to judge another moment.',
  asOf: (moment: string) => `What visitors get on ${moment}. `,
  nothingThen: 'Nothing is found in what visitors get then.',
  lead: (kinds: number, pages: number) =>
    `${kinds === 1 ? 'One kind of fault' : `${kinds.toLocaleString('en-GB')} kinds of faults`} on ${pages === 1 ? '1 page' : `${pages.toLocaleString('en-GB')} pages`}: what blocks a release first, then what most visitors meet. Visits are those of 30 days.`,
  blocks: 'Blocks a release',
  worthFixing: 'Worth fixing',
  onPages: (count: number) => (count === 1 ? '1 page' : `${count.toLocaleString('en-GB')} pages`),
  visits: (count: number) => (count === 1 ? '1 visit' : `${count.toLocaleString('en-GB')} visits`),
  in30Days: 'Visits in 30 days',
  off: 'Off',
  checks: 'Checks',
  checksLead: 'How serious a site takes what is found. What is off is neither listed nor counted.',
  findChecks: 'Find a check',
  noCheckLikeThat: 'No check is called that.',
  noSites: 'No sites yet.',
  asUsual: { blocks: 'As usual: blocks', 'worth-fixing': 'As usual: worth fixing', either: 'As usual: either' },
  eitherIs: 'Either: it blocks where it is so at once, and is worth fixing where it comes to be so later.',
  takenOn: (title: string, site: string) => `${title}, on ${site}`,
  setOtherwise: (count: number) =>
    count === 0
      ? 'Everything is taken as usual.'
      : count === 1
        ? 'One check is set otherwise than usual; it stands first.'
        : `${count} checks are set otherwise than usual; they stand first.`,
  savedOf: (site: string) => `Saved. What was found on ${site} is taken so from now on.`,
  accept: 'Accept…',
  acceptOn: (title: string, page: string) => `Accept: ${title}, on ${page}`,
  howSerious: 'How serious sites take it…',
  acceptedCount: (count: number) =>
    count === 1 ? '1 accepted finding' : `${count.toLocaleString('en-GB')} accepted findings`,
  acceptedBy: (who: string, when: string, until: string | null) =>
    `${who}, ${when}${until === null ? '' : `, until ${until}`}`,
  withdraw: 'Withdraw',
  keys: (mayAccept: boolean) =>
    `↑ ↓ to move, → ← to open and close, Enter to go there${mayAccept ? ', A to accept' : ''}.`,
  onAll: (label: string, count: number) =>
    count === 1 ? `${label}…` : `${label} on ${count.toLocaleString('en-GB')} pages…`,
  andMore: (count: number) =>
    count === 1
      ? 'And 1 more page with fewer visits.'
      : `And ${count.toLocaleString('en-GB')} more pages with fewer visits.`,
  back: 'Back to the list',
  cantBe: (count: number) =>
    count === 1
      ? 'One page can’t be fixed this way; open it instead.'
      : `${count.toLocaleString('en-GB')} pages can’t be fixed this way; open them instead.`,
};
