import type { RegisterPage } from '@domatium/contracts';
import { newPageBody, signInBody } from '@domatium/contracts';
import { found, gatherMarks, hasState, marksOf, stateCounts } from '@domatium/core/register';
import { instantOfWall, type Instant, type Interval } from '@domatium/core/time';
import { defaultScale, fraction, monthsOn } from '../src/app/rail/scale';
import { drawWhen, whenWords } from '../src/app/register/when-drawing';
import { errorsOf } from '../src/app/shared/forms';

const zone = 'Europe/Oslo';
const at = (local: string) => instantOfWall({ local, zone }) as Instant;
const now = at('2026-11-25T09:00');
const page = (id: number, name: string, ...periods: [string, string | null][]): RegisterPage => ({
  id,
  name,
  role: 'ordinary',
  siteId: 1,
  host: 'marrowick.example',
  path: `/p${id}`,
  campaignId: null,
  owner: null,
  changedAt: 0,
  changedBy: null,
  version: 1,
  redirectsAfter: false,
  daily: [],
  visitsBefore: 0,
  periods: periods.map(([from, until], index) => ({
    from: at(from),
    until: until === null ? null : at(until),
    revision: index + 1,
  })),
});
const pages = [
  page(1, 'Hestvær', ['2026-11-01T09:00', '2026-11-27T09:00'], ['2026-11-27T09:00', '2026-12-21T00:00']),
  page(2, 'Ended', ['2026-10-01T00:00', '2026-11-01T00:00']),
  page(3, 'Coming', ['2026-12-01T10:00', null]),
  page(4, 'Draft'),
  page(5, 'Soon off', ['2026-11-01T00:00', '2026-11-30T00:00']),
];

describe('the register', () => {
  it('counts states that add up, with ending soon inside live', () => {
    expect(stateCounts(pages, now)).toEqual({ all: 5, live: 2, coming: 1, ending: 1, ended: 1, draft: 1 });
    // A revision that goes on directly is no end.
    expect(hasState(pages[0] as RegisterPage, 'ending', now)).toBe(false);
  });
  it('finds by words, accents and case aside, in names and addresses', () => {
    expect(found(pages, 'hestvaer').map(({ id }) => id)).toEqual([1]);
    expect(found(pages, 'MARROWICK p3').map(({ id }) => id)).toEqual([3]);
  });
  it('draws state as shape and says it in words', () => {
    const scale = defaultScale(now);
    const kinds = (one: RegisterPage) =>
      [...drawWhen(one, scale, now, zone).children].map(({ className }) => className);
    expect(pages.map(kinds)).toEqual([['live'], ['ended'], ['coming open'], ['draft'], ['live']]);
    expect(whenWords(pages[0] as RegisterPage, now, zone)).toBe('live since Sun 1 Nov, 09:00 to the end of Sun 20 Dec');
    expect(fraction(scale, now)).toBeCloseTo(0.25);
    expect(monthsOn(scale, zone).map(({ label }) => label)).toEqual(['Nov', 'Dec', 'Jan', 'Feb']);
  });
  it('marks what goes live and comes off, and gathers marks that would touch, past and future apart', () => {
    const marks = marksOf(pages, { from: at('2026-11-01T00:00'), until: null } as Interval);
    expect(marks.map(({ kind, name }) => `${kind} ${name}`)).toEqual([
      'off Ended',
      'live Soon off',
      'live Hestvær',
      'off Soon off',
      'live Coming',
      'off Hestvær',
    ]);
    expect(gatherMarks(marks, 864e5, now).map((group) => group.marks.length)).toEqual([3, 1, 1, 1]);
  });
});

it('forms refuse with the words of the contracts', () => {
  expect(errorsOf(signInBody, { email: 'x', password: '' })).toEqual({
    email: 'That is not an e-mail address.',
    password: 'Write your password.',
  });
  expect(errorsOf(newPageBody, { siteId: 1, start: 'blank', name: ' ', path: '/--' })).toEqual({
    name: 'Give it a name.',
    path: 'An address needs at least one letter or digit.',
  });
  expect(errorsOf(newPageBody, { siteId: 1, start: 'blank', name: 'A', path: '/a' })).toEqual({});
});
