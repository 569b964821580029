import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  instant,
  instantOfWall,
  isoInstant,
  subtract,
  wallOf,
  writeEnd,
  type Instant,
  type Interval,
  dayOrderOf,
  parseDay,
  parseTime,
  parseWhen,
  writeDay,
  writeInstant,
} from '../../src/time/index.js';

const iso = (local: string, zone: string) => {
  const at = instantOfWall({ local, zone });
  return at === null ? null : isoInstant(at);
};

describe('wall-clock times (rule 10)', () => {
  it.each([
    // Spring: 02:30 does not exist and moves forward. Autumn: 02:30 comes twice, the earlier is taken. Both seasons around.
    ['2026-03-29T02:30', 'Europe/Oslo', '2026-03-29T01:30:00.000Z'],
    ['2026-10-25T02:30', 'Europe/Oslo', '2026-10-25T00:30:00.000Z'],
    ['2026-07-01T09:00', 'Europe/Oslo', '2026-07-01T07:00:00.000Z'],
    ['2026-12-01T09:00', 'Europe/Oslo', '2026-12-01T08:00:00.000Z'],
    ['2026-03-08T02:30', 'America/New_York', '2026-03-08T07:30:00.000Z'],
    ['2026-11-01T01:30', 'America/New_York', '2026-11-01T05:30:00.000Z'],
    ['2026-04-05T01:45', 'Australia/Lord_Howe', '2026-04-04T14:45:00.000Z'],
    ['2026-10-04T02:15', 'Australia/Lord_Howe', '2026-10-03T15:45:00.000Z'],
  ])('%s in %s is %s', (local, zone, at) => expect(iso(local, zone)).toBe(at));
  it.each(['2026-02-30T10:00', '2026-01-01', '2026-01-01T25:00', 'x'])('refuses %s', (local) =>
    expect(iso(local, 'Europe/Oslo')).toBeNull(),
  );
  it('gives back the time that was chosen wherever it exists', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40_000_000 }),
        fc.constantFrom('Europe/Oslo', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe'),
        (minute, zone) => {
          const at = (minute * 60_000) as Instant;
          const again = instantOfWall({ local: wallOf(at, zone), zone });
          expect(again).not.toBeNull();
          expect((again as number) <= at && wallOf(again as Instant, zone) === wallOf(at, zone)).toBe(true);
        },
      ),
    );
  });
  it('says an end at midnight as the day before', () => {
    const at = instantOfWall({ local: '2026-12-21T00:00', zone: 'Europe/Oslo' }) as Instant;
    expect(writeEnd(at, 'Europe/Oslo', at)).toBe('the end of Sun 20 Dec');
  });
});

describe('days of a zone', () => {
  it('have the offsets the zone has, on days when clocks change too', () => {
    const zones = fc.constantFrom('Europe/Oslo', 'America/St_Johns', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'UTC');
    const changes = [Date.UTC(2026, 2, 29), Date.UTC(2026, 9, 25), Date.UTC(2010, 2, 14), Date.UTC(2026, 3, 4)];
    const around = fc.tuple(fc.constantFrom(...changes), fc.integer({ min: -2000, max: 2000 }));
    const anywhere = fc.tuple(fc.integer({ min: 0, max: 4_000_000_000_000 }), fc.constant(0));
    fc.assert(
      fc.property(zones, fc.oneof(around, anywhere), (zone, [near, by]) => {
        const at = instant(near + by * 60_000);
        const parts = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' });
        expect(wallOf(at, zone)).toBe(parts.format(at).replace(' ', 'T'));
      }),
      { numRuns: 500 },
    );
  });
});

describe('intervals', () => {
  it('takes away exactly what lies in the other', () => {
    const stretch = fc
      .tuple(fc.integer({ min: 0, max: 20 }), fc.option(fc.integer({ min: 1, max: 10 }), { nil: null }))
      .map(([from, size]) => ({ from, until: size === null ? null : from + size }) as Interval);
    const has = ({ from, until }: Interval, t: number) => from <= t && t < (until ?? Infinity);
    fc.assert(
      fc.property(stretch, stretch, (a, b) => {
        const parts = subtract(a, b);
        for (let t = 0; t < 40; t++) expect(parts.some((part) => has(part, t))).toBe(has(a, t) && !has(b, t));
      }),
    );
  });
});

describe('days and times as people write them', () => {
  const today = '2026-11-25';
  it.each([
    ['2026-12-01', '2026-12-01'],
    ['1 Dec', '2026-12-01'],
    ['Tue 1 Dec 2026', '2026-12-01'],
    ['tuesday 1. december', '2026-12-01'],
    ['1.12.2026', '2026-12-01'],
    ['1/12', '2026-12-01'],
    ['25 Nov', '2026-11-25'],
    ['24 nov', '2027-11-24'],
    ['29 Feb', '2028-02-29'],
    ['29 Feb 2027', null],
    ['31.4.2026', null],
    ['2026-13-01', null],
    ['tomorrow', '2026-11-26'],
    ['in 2 weeks', '2026-12-09'],
    ['next Monday', '2026-11-30'],
    ['wed', '2026-12-02'],
    ['thurs', '2026-11-26'],
    ['monsoon', null],
    ['30.11.', '2026-11-30'],
    ['12/24/2026', '2026-12-24'],
    ['24/12/2026', '2026-12-24'],
    ['Dec 24, 2026', '2026-12-24'],
    ['Thursday, December 24th', '2026-12-24'],
    ['1st Dec', '2026-12-01'],
    ['', null],
  ])('%s', (typed, day) => expect(parseDay(typed, today)).toBe(day));
  it('are read back from how they are written', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date(0), max: new Date(4e12), noInvalidDate: true }), (date) => {
        const day = date.toISOString().slice(0, 10);
        expect(parseDay(writeDay(day), today)).toBe(day);
      }),
    );
    expect(writeDay('2026-12-01')).toBe('Tue 1 Dec 2026');
    expect(writeDay('some day')).toBe('some day');
  });
  it('take times with and without a colon', () => {
    expect(['9', '9:30', '0930', '9.30', '23h', '00:00'].map(parseTime)).toEqual([
      '09:00',
      '09:30',
      '09:30',
      '09:30',
      '23:00',
      '00:00',
    ]);
    expect(['noon', '8 pm', '12am', '8:30 p.m.'].map(parseTime)).toEqual(['12:00', '20:00', '00:00', '20:30']);
    const wrong = ['24:00', '9:60', '08:00 UTC', '', '12345', '13 pm'];
    expect(wrong.map(parseTime)).toEqual(wrong.map(() => null));
    // Between strokes days are read as the reader's locale writes them.
    expect([dayOrderOf('en-US'), dayOrderOf('en-GB'), dayOrderOf('de')]).toEqual([
      'month-first',
      'day-first',
      'day-first',
    ]);
    expect(parseDay('12/1/2026', today, 'month-first')).toBe('2026-12-01');
    expect(parseDay('12.1.2026', today, 'month-first')).toBe('2026-01-12');
  });
  it.each([
    ['24 Dec, 18:00', '2026-12-24T18:00'],
    ['tomorrow at 9 am', '2026-11-26T09:00'],
    ['next Friday', '2026-11-27T00:00'],
    ['Dec 24, 2026 9.30', '2026-12-24T09:30'],
    ['2026-12-01T08:15', '2026-12-01T08:15'],
    ['18:00', '2026-11-25T18:00'],
    ['noon', '2026-11-25T12:00'],
    ['9', null],
    ['24', null],
    ['winter 24', null],
    ['24 Dec 25:00', null],
    ['', null],
  ])('a moment in one field: %s', (typed, local) => expect(parseWhen(typed, today)).toBe(local));
  it('reads back a moment as it is written', () => {
    const at = Date.UTC(2027, 0, 5, 8, 30) as Instant;
    expect(parseWhen(writeInstant(at, 'UTC', Date.UTC(2026, 10, 24) as Instant), today)).toBe('2027-01-05T08:30');
  });
});
