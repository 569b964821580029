import type { Shown } from '../shown.js';

/** What the server says of imports: refusals, lines of previews, mails. */
export const say = {
  noPageHasThatId: (id: Shown) => `No page has the id ${id}. Leave it empty to make a page.`,
  thatPageLiesElsewhere: (name: Shown) =>
    `The page with this id is “${name}”, at another address. Leave the address as it was, or move the page in its sheet.`,
  nobodyIsCalled: (name: Shown) => `Nobody here is called ${name}.`,
  noOwner: 'no owner',
  owner: (name: Shown) => `owner ${name}`,
  rowsWithAStartChangeWhat: 'These rows change what visitors get. Ask a publisher or an owner.',
  enterASiteOrTheFull: 'Enter a site, or the full address.',
  sitesAreCalledWriteTheAddress: (count: Shown, site: Shown) =>
    `${count} sites are called ${site}. Write the address of one.`,
  noSiteIsCalled: (site: Shown) => `No site is called ${site}.`,
  aNewPageNeedsAName: 'A new page needs a name.',
  atMost200Characters: 'At most 200 characters.',
  aLabelHasAtMost60Characters: 'A label has at most 60 characters.',
  noCampaignIsCalled: (campaign: Shown) => `No campaign is called ${campaign}.`,
  isntADateOrTimeUse: (field: Shown) => `“${field}” isn’t a date or time. Use 2026-12-01 or 2026-12-01 09:00.`,
  anEndNeedsAStart: 'An end needs a start.',
  thatTimeIsInThePast: 'That time is in the past.',
  itEndsBeforeItStarts: 'It ends before it starts.',
  noPageLiesAt: (address: Shown) => `No page lies at ${address}.`,
  anAnswerNeedsAnEnd: 'What comes afterwards needs an end.',
  timesOrFurtherPeriods:
    'Other times for its period and further periods can’t come in one row. Bring in one, then the other.',
  afterwardsIt: (cell: Shown) => `afterwards ${cell}`,
  onlyTried: 'Only tried',
  line: (line: Shown, field: Shown) => `line ${line}${field}`,
  lineHasTheSameAddress: (earlier: Shown) => `Line ${earlier} has the same address.`,
  renamedFrom: (name: Shown) => `renamed from “${name}”`,
  settingInTheDraft: (setting: Shown) => `${setting} changed in the draft`,
  robots: 'Search engines',
  robotsUnreadable:
    'Use words of the robots tag, like noindex, nofollow, max-snippet:50; all for the usual; - for what is set further up.',
  tooLong: (most: Shown) => `At most ${most} characters.`,
  aTitleCantBeTakenAway: 'A page needs a title.',
  labels: (labels: Shown) => `labels ${labels}`,
  noCampaign: 'no campaign',
  campaign: (campaign: Shown) => `campaign ${campaign}`,
  now: 'now',
  to: (when: Shown) => ` to ${when}`,
  liveFrom: (from: Shown, until: Shown) => `live from ${from}${until}`,
};
