import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { decodeText, delimiterOf, guessFields, settingCells, withSettings } from '@domatium/core/exchange';
import { parseMoment } from '@domatium/core/time';

const utf16 = (text: string, isLittle: boolean, mark: boolean) => {
  const buffer = Buffer.from((mark ? '\uFEFF' : '') + text, 'utf16le');
  return isLittle ? buffer : buffer.swap16();
};

describe('a text file', () => {
  it.each([
    ['UTF-8', Buffer.from('Øy,ä\r\n'), 'utf-8'],
    ['UTF-8 with a mark', Buffer.from('\uFEFFØy,ä\r'), 'utf-8'],
    ['UTF-16 LE', utf16('Øy,ä\n', true, true), 'utf-16le'],
    ['UTF-16 BE', utf16('Øy,ä\n', false, true), 'utf-16be'],
    ['UTF-16 without a mark', utf16('name,site,path\n', true, false), 'utf-16le'],
    ['Windows-1252', Buffer.from('Øy,ä\n', 'latin1'), 'windows-1252'],
  ])('%s is read as it was meant', (_, bytes, encoding) => {
    const decoded = decodeText(bytes);
    expect(decoded.encoding).toBe(encoding);
    expect(decoded.text).toMatch(/^(Øy,ä|name,site,path)\n$/);
  });
  it('of any text in UTF-8 comes back, line ends apart', () =>
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', minLength: 5 }).filter((text) => !text.includes('\u0000')),
        (text) => {
          expect(decodeText(Buffer.from(text)).text).toBe(text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n'));
        },
      ),
    ));
  it.each([
    ['name,site', ','],
    ['name;site;path', ';'],
    ['"a,b,c";site', ';'],
    ['name\tsite', '\t'],
    ['name', ','],
  ])('%s is separated', (head, delimiter) => expect(delimiterOf(`${head}\nx`)).toBe(delimiter));
});

it('guesses which column is what, each field once, the best word first', () => {
  expect(guessFields(['Page', 'Name', 'Start date', 'URL', 'Tags', 'Notes', 'END'])).toEqual([
    null,
    'name',
    'from',
    'path',
    'labels',
    null,
    'until',
  ]);
  expect(guessFields(['slug', 'live_from'])).toEqual(['path', 'from']);
});

it.each([
  ['2026-12-01', false, '2026-12-01T00:00'],
  ['2026-12-20', true, '2026-12-21T00:00'],
  ['2026-12-31', true, '2027-01-01T00:00'],
  ['2026-12-20 18:30', true, '2026-12-20T18:30'],
  ['2026-12-20T18:30:00', false, '2026-12-20T18:30'],
  ['1.12.2026 9:00', false, '2026-12-01T09:00'],
  ['Tue 1 Dec 2026, 09:00', false, '2026-12-01T09:00'],
  ['soon', false, null],
  ['2026-13-01', false, null],
  ['2026-12-01 25:00', false, null],
])('reads %s as a moment', (text, isEnd, expected) => expect(parseMoment(text, '2026-11-25', isEnd)).toBe(expected));

describe('settings as cells', () => {
  const most = { title: 200, description: 500, shareTitle: 200, shareDescription: 500 };
  const words = fc.stringMatching(/^[a-z{}, ]{0,20}[a-z]$/);
  const robots = fc.record(
    {
      ...{
        noindex: fc.constant(true as const),
        nofollow: fc.constant(true as const),
        noarchive: fc.constant(true as const),
      },
      ...{ maxSnippet: fc.nat(300), maxImagePreview: fc.constantFrom('none' as const, 'large' as const) },
      unavailableAfter: fc.integer({ min: 0, max: 4e12 }).map((at) => ({ at, zone: 'Europe/Oslo' })),
    },
    { requiredKeys: [] },
  );
  const metadata = fc.record(
    { title: words, description: fc.oneof(words, fc.constant('')), shareTitle: words, shareDescription: words, robots },
    { requiredKeys: ['title', 'description'] },
  );
  it('come back as they were: nothing of them has changed, and on another page they are the same', () => {
    fc.assert(
      fc.property(metadata, metadata, (one, other) => {
        const cells = settingCells(one);
        expect(withSettings(one, cells, { zone: 'UTC', most })).toEqual({ metadata: one, changed: [], wrong: [] });
        const set = withSettings({ title: 'x', description: '' }, cells, { zone: 'Europe/Oslo', most }).metadata;
        expect(set).toEqual({ ...one });
        // Empty cells leave what is there.
        const empty = { title: '', description: '', shareTitle: '', shareDescription: '', robots: '' };
        expect(withSettings(other, empty, { zone: 'UTC', most }).metadata).toEqual(other);
      }),
    );
  });
});
