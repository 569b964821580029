import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  copiedPeriods,
  datesIn,
  daysBetween,
  nameByPattern,
  pathByPattern,
  withReplacements,
} from '@domatium/core/copy';
import {
  mapDocument,
  newBlock,
  pageReferencesOf,
  picturesOf,
  richTextOf,
  type PageDocument,
} from '@domatium/core/document';
import type { LivePeriod, PageId, PagePlan, PictureId } from '@domatium/core/plan';
import { daysLater, later, MINUTE, type Instant } from '@domatium/core/time';

const year = [{ from: '2026', to: '2027' }];

describe('patterns', () => {
  it.each([
    ['{name} 2027', 'Midwinter', [], 'Midwinter 2027'],
    ['{name}', 'Midwinter 2026', year, 'Midwinter 2027'],
    ['Autumn', 'Midwinter', [], 'Autumn'],
  ])('name %s of %s', (pattern, name, replacements, result) =>
    expect(nameByPattern(pattern, { name, path: '/' }, replacements)).toBe(result),
  );
  it.each([
    ['{path}-2027', '/winter/midwinter', [], '/winter/midwinter-2027'],
    ['{path}-2027', '/', [], '/2027'],
    ['{path}', '/pass-2026', year, '/pass-2027'],
    ['/again/{slug}', '/winter/midwinter', [], '/again/midwinter'],
    ['/{name}', '/x', [], '/night-crossing'],
    ['{path}', '/', [], '/'],
  ])('path %s of %s', (pattern, path, replacements, result) =>
    expect(pathByPattern(pattern, { name: 'Night crossing', path }, replacements)).toBe(result),
  );
});

describe('dates in a text', () => {
  const start = { year: 2026, month: 11 };
  const result = (text: string, days: number) =>
    withReplacements(
      text,
      datesIn(text, days, start).map((hit) => ({ ...hit, by: hit.proposal })),
    );
  it.each([
    ['Sat 12 December 2026 at nine', 364, 'Sat 11 December 2027 at nine'],
    ['from 28 Dec to 3 Jan', 365, 'from 28 Dec to 3 Jan'],
    ['from 28 Dec to 3 Jan', 364, 'from 27 Dec to 2 Jan'],
    ['on December 5, 2026', 7, 'on December 12, 2026'],
    ['2026-12-31 or 05.12.2026', 2, '2027-01-02 or 07.12.2026'],
    ['Island pass 2026', 364, 'Island pass 2027'],
    ['31 February, 1234 people, 20266', 5, '31 February, 1234 people, 20266'],
    ['Sunday 20 December', 1, 'Monday 21 December'],
  ])('%s, %d days later', (text, days, expected) => expect(result(text, days)).toBe(expected));
  it('moves there and back again wherever a date carries its year', () =>
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2001-01-01'), max: new Date('2090-01-01'), noInvalidDate: true }),
        fc.integer({ min: -3000, max: 3000 }),
        (date, days) => {
          const text = `On ${date.toISOString().slice(0, 10)}.`;
          expect(result(result(text, days), -days)).toBe(text);
        },
      ),
    ));
  it('keeps the weekday to the nearest week', () => {
    expect(daysBetween('2026-11-25', '2027-11-25', false)).toBe(365);
    expect(daysBetween('2026-11-25', '2027-11-25', true)).toBe(364);
    expect(daysBetween('2026-11-25', '2026-11-21', true)).toBe(-7);
  });
});

describe('periods of a copy', () => {
  const t = (minutes: number) => (Date.UTC(2026, 10, 1) + minutes * MINUTE) as Instant;
  const period = (from: number, until: number | null): LivePeriod => ({
    id: 1 as never,
    pageId: 1 as PageId,
    revisionId: 1 as never,
    during: { from: t(from), until: until === null ? null : t(until) },
    leaves: null,
  });
  const plan = (periods: LivePeriod[]): PagePlan => ({ pageId: 1 as PageId, placements: [], periods, statements: [] });
  it('moves all, leaves out what would be over, and begins now what would have begun', () => {
    const copied = (days: number) =>
      copiedPeriods(
        plan([period(0, 10), period(10, 20), period(30, null)]),
        (at) => daysLater(at, days, 'UTC'),
        later(t(5), 24 * 60 * MINUTE),
      );
    expect(copied(1)).toEqual([
      { from: later(t(5), 24 * 60 * MINUTE), until: later(t(10), 24 * 60 * MINUTE), afterwards: null },
      {
        from: later(t(10), 24 * 60 * MINUTE),
        until: later(t(20), 24 * 60 * MINUTE),
        afterwards: { kind: 'not-found' },
      },
      { from: later(t(30), 24 * 60 * MINUTE), until: null, afterwards: null },
    ]);
    expect(copied(0).map(({ until }) => until)).toEqual([null]);
  });
});

describe('a document mapped', () => {
  const document: PageDocument = {
    metadata: { title: 'Two pages', description: '' },
    blocks: [
      newBlock('opening', 'opening1', {
        heading: 'Heading',
        picture: { pictureId: 5 as PictureId, description: 'A boat', isDecorative: false },
        button: { label: 'Go', target: { kind: 'page', pageId: 7 as PageId } },
      }),
      newBlock('text', 'text1', {
        text: {
          ...richTextOf('Words'),
          content: [
            {
              type: 'paragraph',
              content: [
                {
                  type: 'text',
                  text: 'there',
                  marks: [{ type: 'link', attrs: { target: { kind: 'page', pageId: 8 as PageId } } }],
                },
              ],
            },
          ],
        },
      }),
    ],
  };
  it('is itself where nothing is asked, and changes just what is asked', () => {
    expect(mapDocument(document, {})).toEqual(document);
    const mapped = mapDocument(document, {
      link: (target) => (target.kind === 'page' && target.pageId === 8 ? null : { kind: 'page', pageId: 9 as PageId }),
      picture: (use) => ({ ...use, pictureId: 6 as PictureId }),
      text: (text, place) => (place === 'opening1.heading' ? 'Other' : text),
    });
    expect(pageReferencesOf(mapped)).toEqual([9]);
    expect(picturesOf(mapped)[0]?.value.pictureId).toBe(6);
    expect(mapped.blocks[0]?.fields['heading']).toBe('Other');
    expect(JSON.stringify(mapped.blocks[1])).toContain('"there"');
  });
});
