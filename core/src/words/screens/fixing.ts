/** What the interface says: `web/src/app/fixing`. */
export const say = {
  toFix: 'To fix',
  nothing: 'Nothing to fix. Whatever checks find in drafts and live pages is listed here.',
  looking: 'Looking…',
  lead: (kinds: number, pages: number) =>
    `${kinds === 1 ? 'One kind of fault' : `${kinds.toLocaleString('en-GB')} kinds of faults`} on ${pages === 1 ? '1 page' : `${pages.toLocaleString('en-GB')} pages`}: what blocks a release first, then what most visitors meet. Visits are those of 30 days.`,
  blocks: 'Blocks a release',
  worthFixing: 'Worth fixing',
  onPages: (count: number) => (count === 1 ? '1 page' : `${count.toLocaleString('en-GB')} pages`),
  visits: (count: number) => (count === 1 ? '1 visit' : `${count.toLocaleString('en-GB')} visits`),
  in30Days: 'Visits in 30 days',
  keys: '↑ ↓ to move, → ← to open and close, Enter to go there.',
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
