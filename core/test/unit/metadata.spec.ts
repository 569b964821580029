import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { documentFromJSON, type HeadElement, type Robots } from '../../src/document/index.js';
import {
  cutTo,
  headHtml,
  likenessOf,
  NOTHING_SAID,
  worded,
  wholeTitle,
  type SaidOfPage,
} from '../../src/metadata/index.js';
import {
  contentFromJSON,
  heldMetadata,
  NO_METADATA,
  placeOnSite,
  ruleFor,
  saidOfPage,
  type MetadataRule,
  type RuleFor,
  type SharedMetadata,
} from '../../src/stock/index.js';

const NAMES = ['author', 'site-verification', 'event:start'];
const element: fc.Arbitrary<HeadElement> = fc.oneof(
  fc.record({
    kind: fc.constant('meta' as const),
    name: fc.constantFrom(...NAMES),
    content: fc.constantFrom('a', 'b"<'),
  }),
  fc.record({
    ...{ kind: fc.constant('link' as const), rel: fc.constantFrom('me', 'license') },
    href: fc.constantFrom('https://one.example/', 'https://two.example/'),
  }),
);
const keyOf = (one: HeadElement) => (one.kind === 'meta' ? one.name : `${one.rel} ${one.href}`);
const elements = fc.uniqueArray(element, { maxLength: 4, selector: keyOf });
const robots: fc.Arbitrary<Robots> = fc.constantFrom({}, { noindex: true as const }, { maxSnippet: 40 });
const text = fc.option(fc.constantFrom('', 'Sale:', '| Marrowick'));
const metadata: fc.Arbitrary<SharedMetadata> = fc.record({
  ...{ titleBefore: text, titleAfter: text, description: text, siteName: text, organization: text },
  ...{ robots: fc.option(robots), elements },
});
/** From the whole to the single, as far as they cover a page at /events/fair of site 1. */
const COVERING = [
  [null, null],
  [null, 1],
  ['path:/', 1],
  ['path:/events', 1],
  ['path:/events/fair', 1],
] as const;
const ELSEWHERE = [
  [null, 2],
  ['path:/event', 1],
  ['path:/events/fair/more', 1],
  ['path:/events', 2],
] as const;
const rule = (
  [key, siteId]: readonly [string | null, number | null],
  id: number,
  said: SharedMetadata,
): MetadataRule => ({
  ...{ id, for: ruleFor(key, siteId) as RuleFor, metadata: said },
});
const page = placeOnSite(1, 'one.example', '/events/fair');

describe('what is said of pages further up', () => {
  it('holds value by value from the most single rule that covers the page, whatever the order they come in', () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(metadata), { minLength: 5, maxLength: 5 }),
        fc.array(metadata, { minLength: 4, maxLength: 4 }),
        fc.boolean(),
        (covering, elsewhere, isTurned) => {
          const heard = COVERING.flatMap((about, n) => (covering[n] ? [rule(about, n, covering[n])] : []));
          const others = ELSEWHERE.map((about, n) => rule(about, n + 9, elsewhere[n] ?? NO_METADATA));
          const all = isTurned ? [...heard, ...others].reverse() : [...others, ...heard];
          const held = heldMetadata(all, page);
          for (const key of [
            'titleBefore',
            'titleAfter',
            'description',
            'siteName',
            'organization',
            'robots',
          ] as const) {
            const said = heard.filter((one) => one.metadata[key] !== null).at(-1);
            expect(held[key].value).toEqual(said?.metadata[key] ?? (key === 'robots' ? null : ''));
            expect(held[key].by?.id).toBe(said?.id);
          }
          const byName = new Map(heard.flatMap((one) => one.metadata.elements.map((each) => [keyOf(each), each])));
          expect(new Map(held.elements.map(({ value }) => [keyOf(value), value]))).toEqual(byName);
        },
      ),
    );
  });
  it('comes through JSON as it was, and reaches the head of a page that says nothing itself', () => {
    fc.assert(
      fc.property(metadata, elements, fc.option(robots), (said, own, asked) => {
        expect(contentFromJSON('metadata', JSON.parse(JSON.stringify(said)))).toEqual({ ok: true, value: said });
        const given = saidOfPage(heldMetadata([rule([null, null], 1, said)], page));
        const read = documentFromJSON({
          ...{ metadata: { title: 'Fair', description: '', elements: own, robots: asked }, blocks: [] },
        });
        if (!read.ok) throw new Error(JSON.stringify(read.faults));
        const { markup } = headHtml({
          ...{ metadata: read.value.metadata, siteName: 'Site', canonical: null, isIndexable: true },
          ...{ shareImage: null, said: given },
        });
        const { noindex = false } = asked ?? said.robots ?? {};
        expect(markup.includes('noindex')).toBe(noindex);
        // Each name once, with what the page says itself before what is said further up.
        for (const name of NAMES) {
          const one = own.find((each) => keyOf(each) === name) ?? said.elements.find((each) => keyOf(each) === name);
          const found = [...markup.matchAll(new RegExp(`(name|property)="${name}" content="([^"]*)"`, 'g'))];
          expect(found.map(([, , content]) => content)).toEqual(
            one?.kind === 'meta' ? [one.content.replace('"<', '&quot;&lt;')] : [],
          );
        }
      }),
    );
  });
  it('puts one space around titles, and none of it around one that stands alone', () => {
    const said: SaidOfPage = { ...NOTHING_SAID, titleBefore: ' Sale:', titleAfter: '| {site}  ' };
    expect(wholeTitle(' Fair ', said)).toBe('Sale: Fair | {site}');
    const titleOf = (more: object) =>
      /<title>(.*)<\/title>/.exec(
        headHtml({
          ...{
            metadata: { title: 'Fair', description: '', ...more },
            siteName: 'Site',
            canonical: null,
            isIndexable: true,
          },
          ...{ shareImage: null, said },
        }).markup,
      )?.[1];
    expect([titleOf({}), titleOf({ titleAlone: true }), titleOf({ title: '' })]).toEqual([
      'Sale: Fair | {site}',
      'Fair',
      'Site',
    ]);
  });
  it('is refused at its place: what pages say by fields of their own, what would fetch or run, and too much of it', () => {
    const pathsOf = (json: object) => {
      const read = contentFromJSON('metadata', { ...NO_METADATA, ...json });
      return read.ok ? [] : read.faults.map(({ path }) => path);
    };
    const meta = (name: string, content = 'x') => ({ kind: 'meta', name, content });
    const link = (rel: string, href = 'https://one.example/') => ({ kind: 'link', rel, href });
    for (const name of ['description', 'Robots', 'og:title', 'og:image:width', 'viewport', 'twitter:card'])
      expect(pathsOf({ elements: [meta(name)] })).toEqual(['elements[0].name']);
    for (const rel of ['stylesheet', 'preload', 'icon', 'canonical', 'import'])
      expect(pathsOf({ elements: [link(rel)] })).toEqual(['elements[0].rel']);
    expect(
      pathsOf({ elements: [meta('a b'), meta('a', ' '), link('me', 'javascript:x'), meta('c'), meta('C')] }),
    ).toEqual(['elements[0].name', 'elements[1].content', 'elements[2].href', 'elements[4].name']);
    expect(pathsOf({ titleAfter: 'x'.repeat(81), robots: { maxSnippet: -1 }, elements: Array(21).fill(0) })).toEqual(
      expect.arrayContaining(['titleAfter', 'robots.maxSnippet', 'elements']),
    );
  });
});

describe('a text that is cut where it is shown', () => {
  // Each letter is as wide as its size.
  const measure = (text: string, size: number) => [...text].length * size;
  it('fits its lines, loses nothing where it need not be cut, and else ends at a word', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'é', '船'), minLength: 1, maxLength: 14 });
    fc.assert(
      fc.property(
        fc.array(word, { maxLength: 12 }),
        fc.integer({ min: 4, max: 30 }),
        fc.integer({ min: 1, max: 3 }),
        (words, letters, lines) => {
          const text = words.join(' ');
          const cut = cutTo(text, { size: 10, width: letters * 10, lines }, measure);
          const bare = (some: string) => some.replaceAll(' ', '');
          if (!cut.isCut) expect(bare(cut.text)).toBe(bare(text));
          else {
            expect(bare(text).startsWith(bare(cut.text.slice(0, -2)))).toBe(true);
            expect(bare(cut.text.slice(0, -2)).length).toBeLessThan(bare(text).length);
            expect(cut.text.endsWith('\u00a0…')).toBe(true);
          }
          // At most as much as its lines hold, with the spaces between lines.
          expect([...cut.text].length).toBeLessThanOrEqual(letters * lines + lines - 1);
          // What fits into one line is never cut.
          if ([...text].length <= letters) expect(cut).toEqual({ text, isCut: false });
          const isShort = words.every((one) => [...one].length <= letters - 2);
          if (cut.isCut && isShort)
            expect(words.join(' ').startsWith(cut.text.slice(0, -2) + ' ') || cut.text === '\u00a0…').toBe(true);
        },
      ),
    );
  });
});

describe('titles and descriptions that are alike', () => {
  const word = fc.constantFrom('boat', 'Bø', 'night', 'isle', 'hall', 'lamp', 'tide', 'sail');
  const text = fc.array(word, { maxLength: 9 }).map((words) => words.join(' '));
  const like = (a: string, b: string) => likenessOf(worded(a), worded(b));
  it('are so whichever comes first, whatever case, accents and marks, and one word in five or more is no matter', () => {
    fc.assert(
      fc.property(text, text, (a, b) => {
        expect(like(a, b)).toBe(like(b, a));
        expect(like(a, a.toUpperCase().replaceAll(' ', ' – '))).toBe(a ? 'same' : null);
        const [one, other] = [new Set(worded(a).words), new Set(worded(b).words)];
        const shared = [...one].filter((each) => other.has(each)).length;
        const share = shared / new Set([...one, ...other]).size;
        if (like(a, b) !== 'same')
          expect(like(a, b)).toBe(Math.min(one.size, other.size) >= 4 && share >= 0.75 ? 'near' : null);
      }),
    );
    expect(like('Winter timetable for the night boat 2026', 'Winter timetable for the night boat 2027')).toBe('near');
    expect([like('Partner: Bakery', 'Partner: Sauna'), like('', ''), like('–', '…')]).toEqual([null, null, null]);
  });
});
