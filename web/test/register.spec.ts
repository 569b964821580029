import { newPageBody, signInBody } from '@domatium/contracts';
import { rowState, type RegisterRow } from '@domatium/core/register';
import { DAY, dayOf, instantOfWall, later, type Instant } from '@domatium/core/time';
import { defaultScale, fraction, ticksOn } from '../src/app/shared/scale';
import { drawWhen, momentKey, whenWords } from '../src/app/shared/when-drawing';
import { errorsOf } from '../src/app/hub/forms';

const zone = 'Europe/Oslo';
const at = (local: string) => instantOfWall({ local, zone }) as Instant;
const now = at('2026-11-25T09:00');
const page = (id: number, name: string, ...periods: [string, string | null][]): RegisterRow => ({
  id,
  name,
  role: 'ordinary',
  siteId: 1,
  host: 'marrowick.example',
  path: `/p${id}`,
  siteName: 'Ferries',
  campaign: null,
  labels: [],
  template: null,
  findings: null,
  owner: null,
  changedAt: 0,
  changedBy: null,
  version: 1,
  redirectsAfter: false,
  unfoundLive: null,
  binnedSince: null,
  prepared: [],
  tasks: null,
  visits: 0,
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
  it('draws state as shape and says it in words', () => {
    const scale = defaultScale(now);
    const kinds = (one: RegisterRow) => [...drawWhen(one, scale, now, zone).children].map(({ className }) => className);
    expect(pages.map(kinds)).toEqual([['live'], ['ended'], ['coming open'], ['draft'], ['live']]);
    expect(whenWords(pages[0] as RegisterRow, now, zone)).toBe('live since Sun 1 Nov, 09:00 to the end of Sun 20 Dec');
    expect(fraction(scale, now)).toBeCloseTo(0.25);
    expect(ticksOn(scale, zone).map(({ label }) => label)).toEqual(['Nov', 'Dec', 'Jan', 'Feb']);
  });
  it('is drawn anew exactly where another moment makes another drawing', () => {
    const scale = defaultScale(now);
    const html = (one: RegisterRow, moment: Instant) => {
      const root = drawWhen(one, scale, moment, zone);
      return `${root.outerHTML} ${rowState(one, moment)}`;
    };
    const key = (one: RegisterRow, moment: Instant) => momentKey(one, moment, dayOf(moment, zone).slice(0, 4));
    const moments = Array.from({ length: 400 }, (_, n) => later(now, (n - 150) * 7 * 3_600_000));
    for (const one of pages)
      for (const [a, b] of moments.map((moment, n) => [moment, moments[n + 1] ?? now] as const))
        if (key(one, a) === key(one, b)) expect(html(one, b)).toBe(html(one, a));
    const kinds = pages.map((one) => new Set(moments.map((moment) => key(one, moment))).size);
    // Never for a draft but with the year, whose line begins where the moment is, whichever that is.
    expect(kinds).toEqual([4, 3, 3, 2, 4]);
  });
  it('labels its ticks by what there is room for', () => {
    const labels = (from: string, days: number) =>
      ticksOn({ from: at(from), until: at(from) + days * DAY }, zone).map(({ label }) => label);
    expect(labels('2026-11-25T22:00', 0.25)).toEqual(['22:00', '23:00', '26 Nov', '01:00', '02:00', '03:00']);
    expect(labels('2026-11-25T00:00', 7)).toEqual([
      '25 Nov',
      '26 Nov',
      '27 Nov',
      '28 Nov',
      '29 Nov',
      '30 Nov',
      '1 Dec',
    ]);
    expect(labels('2026-01-10T00:00', 730)).toEqual(['Apr', 'Jul', 'Oct', 'Jan 2027', 'Apr', 'Jul', 'Oct', 'Jan 2028']);
    expect(labels('2022-06-01T00:00', 1825)).toEqual(['2023', '2024', '2025', '2026', '2027']);
  });
});

it('forms refuse with the words of the contracts', () => {
  expect(errorsOf(signInBody, { email: 'x', password: '' })).toEqual({
    email: 'That isn’t an e-mail address.',
    password: 'Enter your password.',
  });
  expect(errorsOf(newPageBody, { siteId: 1, start: 'blank', name: ' ', path: '/--' })).toEqual({
    name: 'Give it a name.',
    path: 'An address needs at least one letter or digit.',
  });
  expect(errorsOf(newPageBody, { siteId: 1, start: 'blank', name: 'A', path: '/a' })).toEqual({});
});
