import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { newBlock, richTextOf, type PageDocument } from '../../src/document/index.js';
import {
  fillPattern,
  patternFactsOf,
  placesOfPhrase,
  patternFault,
  readPattern,
  PATTERN_NAMES,
  type Pattern,
  type PatternFacts,
} from '../../src/metadata/index.js';
import { cutAtWord, lengthOf } from '../../src/text/index.js';

const document: PageDocument = {
  metadata: { title: 'Night boat', description: '' },
  blocks: [
    newBlock('opening', 'opening1', { heading: 'The night boat', lead: '' }),
    newBlock('text', 'text0001', { body: richTextOf('Leaves at ten, there at dawn. Breakfast is in it.') }),
    newBlock('offer', 'offer001', { heading: 'Cabin for two', price: '1,190 kr', body: richTextOf('‹What is in it›') }),
  ],
};
const facts = patternFactsOf(document, { name: 'Night boat 2026', campaign: null, portfolio: 'Marrowick Coast' });
const values = new Map([
  ['site name', 'Ferries'],
  ['hotline', '75 12 00 31'],
  ['nothing', ' '],
]);
const read = (typed: string): Pattern => {
  const result = readPattern(typed);
  if (!result.ok) throw new Error(JSON.stringify(result.faults));
  return result.value;
};
const codes = (typed: string) => {
  const result = readPattern(typed);
  return result.ok ? [] : result.faults.map(({ code }) => code);
};
const filled = (typed: string, most: number | null = null) => fillPattern(read(typed), facts, values, most);

describe('a pattern', () => {
  it('takes what the page has, and the first that is something', () => {
    expect(facts).toEqual({
      ...{ 'page name': 'Night boat 2026', 'page title': 'Night boat', 'page description': '' },
      ...{ 'first heading': 'The night boat', 'first paragraph': 'Leaves at ten, there at dawn. Breakfast is in it.' },
      ...{ 'offer name': 'Cabin for two', 'offer price': '1,190 kr', campaign: '', portfolio: 'Marrowick Coast' },
    });
    expect(filled('{First  heading} from {offer price} | {portfolio}')).toEqual({
      kept: 'The night boat from 1,190 kr | Marrowick Coast',
      read: 'The night boat from 1,190 kr | Marrowick Coast',
    });
    expect(filled('{campaign|page description|"All | of } it"}')).toMatchObject({ kept: 'All | of } it' });
    expect(filled('{campaign|page description}: more')).toEqual({ missing: '{campaign|page description}' });
    expect(filled('{nothing|page title}{campaign|""}')).toMatchObject({ kept: 'Night boat' });
  });
  it('keeps shared values as names, so that they follow; where it is cut their words stand', () => {
    expect(filled('{page title}, {site name}')).toEqual({
      kept: 'Night boat, {site name}',
      read: 'Night boat, Ferries',
    });
    expect(filled('{first paragraph:20}')).toMatchObject({ kept: 'Leaves at ten, there' });
    expect(filled('{site name} {page title}', 10)).toEqual({ kept: 'Ferries', read: 'Ferries' });
    expect(filled('{site name} {page title}', 18)).toMatchObject({ kept: '{site name} Night boat' });
  });
  it('that can’t be read, names what nobody knows, or itself, says what is wrong', () => {
    expect(
      ['', ' ', '{', 'a } b', '{a"}', '{a|}', '{}', '{|a}', '{a:0}', '{a:501}', '{a:b}', 'x'.repeat(601)].map(codes),
    ).toEqual([
      ...[['pattern-empty'], ['pattern-empty'], ['pattern-braces'], ['pattern-braces'], ['pattern-braces']],
      ...[
        ['pattern-place'],
        ['pattern-place'],
        ['pattern-place'],
        ['not-a-number'],
        ['not-a-number'],
        ['pattern-place'],
      ],
      ['text-too-long'],
    ]);
    const fault = (typed: string, of: 'title' | 'description' | 'shareTitle') =>
      patternFault(read(typed), of, new Set(values.keys()))?.message ?? null;
    expect(fault('{page title|page name}', 'title')).toContain('{page title}');
    expect(fault('{page description:40}', 'description')).toContain('itself');
    expect(fault('{page title} {hotline}', 'shareTitle')).toBeNull();
    expect(fault('{tide} {moon} {hotline}', 'title')).toBe('{tide}, {moon}: there is no such value.');
  });
  it('gives no more than is asked, never half a word of several, and no braces that were not there', () => {
    const name = fc.constantFrom<string>(...PATTERN_NAMES, 'site name', 'hotline');
    const plain = fc.string({ unit: fc.constantFrom(...'ab ,ø😀|–'), maxLength: 12 });
    const term = fc.oneof(
      fc.tuple(name, fc.option(fc.integer({ min: 1, max: 40 }))).map(([of, most]) => (most ? `${of}:${most}` : of)),
      plain.map((words) => `"${words}"`),
    );
    const place = fc.array(term, { minLength: 1, maxLength: 3 }).map((terms) => `{${terms.join('|')}}`);
    const typed = fc.array(fc.oneof(plain, place), { minLength: 1, maxLength: 5 }).map((parts) => parts.join(''));
    const known = fc.record(
      Object.fromEntries(PATTERN_NAMES.map((key) => [key, plain])) as Record<keyof PatternFacts, typeof plain>,
    );
    fc.assert(
      fc.property(typed, known, fc.option(fc.integer({ min: 1, max: 60 })), (one, has, most) => {
        fc.pre(one.trim() !== '');
        const result = fillPattern(read(one), has as PatternFacts, values, most);
        if ('missing' in result) return;
        expect([...result.read].length).toBeLessThanOrEqual(most ?? Infinity);
        expect(result.read).not.toMatch(/[{}]/);
        expect(result.kept.replace(/\{(site name|hotline)\}/g, '')).not.toMatch(/[{}]/);
      }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.string({ unit: fc.constantFrom(...'abø😀'), minLength: 1, maxLength: 6 }), { minLength: 1 }),
        fc.integer({ min: 14, max: 60 }),
        (words, most) => {
          const cut = cutAtWord(words.join(' '), most);
          expect(lengthOf(cut)).toBeLessThanOrEqual(most);
          expect(words.join(' ').startsWith(cut)).toBe(true);
          expect(cut.split(' ')).toEqual(words.slice(0, cut.split(' ').length));
        },
      ),
    );
  });
});

describe('a phrase that people search for', () => {
  const texts = { title: 'Night boat | Ferries', description: 'By night', path: '/night-boat/winter', filled: String };
  const places = (phrase: string, more: Partial<typeof texts> = {}) => [
    ...placesOfPhrase(document, { ...texts, ...more }, phrase),
  ];
  it('is found word by word where it stands, whatever is between the words', () => {
    expect(places('night boat')).toEqual(['title', 'heading', 'address', 'opening']);
    expect(places('NIGHT–Boat')).toEqual(['title', 'heading', 'address', 'opening']);
    expect(places('by night')).toEqual(['description']);
    expect(places('breakfast is in it')).toEqual(['opening']);
    // Half a word is none.
    expect(places('at', { path: '/boat' })).toEqual(['opening']);
    expect([places('oat'), places(' – '), places('')]).toEqual([[], [], []]);
  });
  it('counts as it is read, with values filled in, and in descriptions of pictures that are not decorative', () => {
    const use = (description: string, isDecorative: boolean) => ({ pictureId: 1 as never, description, isDecorative });
    const page: PageDocument = {
      metadata: document.metadata,
      blocks: [
        newBlock('opening', 'opening1', { heading: 'At {quay}', picture: use('The lamp on the pier', false) }),
        newBlock('picture', 'picture1', { picture: use('A red lamp', true) }),
      ],
    };
    const filled = (text: string) => text.replace('{quay}', 'Skerrow');
    const at = (phrase: string) => [...placesOfPhrase(page, { ...texts, path: '/', filled }, phrase)];
    expect([at('at Skerrow'), at('lamp on the pier'), at('red lamp')]).toEqual([
      ['heading', 'opening'],
      ['pictures'],
      [],
    ]);
  });
});
