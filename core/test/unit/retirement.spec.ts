import { describe, expect, it } from '@jest/globals';
import { evidenceOf, QUIET_DAYS, type PageFacts } from '../../src/retirement/index.js';
import { DAY, type Instant } from '../../src/time/index.js';

const now = (1000 * DAY) as Instant;
const daysAgo = (days: number) => (now - days * DAY) as Instant;
const period = (from: number, until: number | null) => ({
  from: daysAgo(from),
  until: until === null ? null : daysAgo(until),
});
const facts = (known: Partial<PageFacts>): PageFacts => ({
  now,
  periods: [period(400, null)],
  recentVisits: 0,
  lastVisit: null,
  linkedFrom: 0,
  ledFrom: [],
  askedInVain: 0,
  gives: 'page',
  ...known,
});
const says = (known: Partial<PageFacts>) =>
  evidenceOf(facts(known)).map(({ speaksFor, words }) => `${speaksFor}: ${words}`);

describe('evidence of a live page', () => {
  it('counts days without a visit from its last visit, or from the day it went live', () => {
    const quiet = (known: Partial<PageFacts>) =>
      says({ linkedFrom: 2, ...known }).filter((words) => /No visit/.test(words));
    expect(quiet({ lastVisit: daysAgo(QUIET_DAYS) })).toEqual(['taking-off: No visit for 90 days, while it was live']);
    expect(quiet({ lastVisit: daysAgo(QUIET_DAYS - 0.5) })).toEqual([]);
    expect(quiet({ periods: [period(30, null)], lastVisit: daysAgo(300) })).toEqual([]);
    expect(quiet({})).toEqual(['taking-off: No visit for 400 days, while it was live']);
  });
  it('speaks for a page with visits or links, and against one that is open-ended and alone', () => {
    expect(says({ recentVisits: 1, linkedFrom: 1 })).toEqual([
      'keeping: 1 visit in the last 30 days',
      'keeping: 1 live page links here',
    ]);
    // What stands in a menu is not alone, whatever pages say.
    expect(says({ ledFrom: ['Main menu', 'Footer'] })).toEqual([
      'taking-off: No visit for 400 days, while it was live',
      'keeping: “Main menu” and 1 more of what stands around pages lead here',
    ]);
    expect(says({ recentVisits: 1200 })).toEqual([
      'keeping: 1,200 visits in the last 30 days',
      'taking-off: Live with no end planned, and no live page links here',
    ]);
    expect(says({ recentVisits: 3, periods: [period(3, -3)] })).toEqual(['keeping: 3 visits in the last 30 days']);
  });
});

describe('evidence of a page that is over', () => {
  const over = { periods: [period(90, 40)] };
  it('asks for mending where people still come and get nothing', () => {
    expect(says({ ...over, gives: 'not-found', linkedFrom: 2, askedInVain: 31 })).toEqual([
      'mending: 2 live pages still link here, and visitors get nothing',
      'mending: Asked for 31 times in the last 30 days, with nothing to show: send visitors somewhere',
    ]);
  });
  it('keeps a redirect that is used, and lets go what nobody asks for', () => {
    expect(says({ ...over, gives: 'redirect', askedInVain: 31 })).toEqual([
      'keeping: Its redirect was used 31 times in the last 30 days',
    ]);
    expect(says({ ...over, gives: 'gone' })).toEqual([
      'taking-off: Ended, not linked from any live page, and no requests in 30 days',
    ]);
  });
  it('says nothing of a draft, of a page that comes back, or of one whose address another page holds', () => {
    expect(says({ periods: [] })).toEqual([]);
    expect(says({ periods: [...over.periods, period(-5, null)], gives: 'not-found' })).toEqual([]);
    expect(says({ ...over, gives: 'page', askedInVain: 3 })).toEqual([]);
  });
});
