import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { EMPTY_DOCUMENT, newBlock, richTextOf, type Metadata, type PageDocument } from '../../src/document/index.js';
import { Judgement, sightOf, type JudgedPage, type JudgedWorld } from '../../src/judgement/index.js';
import { daysIn, languageOf } from '../../src/judgement/reading.js';
import { signatureOf, TextIndex, WordIndex } from '../../src/judgement/same.js';
import { likenessOf, worded } from '../../src/metadata/index.js';
import type { PageId } from '../../src/plan/index.js';
import type { Instant } from '../../src/time/index.js';

const at = (day: string) => Date.parse(`${day}T09:00:00Z`) as Instant;
const worldAt = (day: string, more: Partial<JudgedWorld> = {}): JudgedWorld => ({
  ...{ at: at(day), write: (when) => new Date(when).toISOString().slice(0, 10) },
  ...{ sizeOf: () => ({ width: 2_000, height: 1_200, isVector: false }), ...more },
});
const text = (words: string): PageDocument => ({
  ...EMPTY_DOCUMENT,
  blocks: [newBlock('text', 'text1', { body: richTextOf(words) })],
});
function pageOf(
  id: number,
  metadata: Partial<Metadata> = {},
  more: Partial<JudgedPage> & { document?: PageDocument } = {},
): JudgedPage {
  const { document = EMPTY_DOCUMENT, ...rest } = more;
  const whole = { ...document, metadata: { title: '', description: '', ...metadata } };
  const page = {
    ...{ id: id as PageId, name: `Page ${id}`, live: { from: at('2026-01-01'), until: null }, since: at('2026-01-01') },
    ...{ role: 'ordinary', language: 'en', isShown: true, campaign: null, sitePicture: 1, ...rest },
  };
  return { ...page, key: JSON.stringify([whole, page]), sight: sightOf(whole) };
}
const codesOf = (judgement: Judgement, id: number, world = worldAt('2026-06-01')) =>
  judgement.findingsOf(id as PageId, world).map(({ code }) => code);

describe('a portfolio is judged as a whole', () => {
  it('and finds titles and descriptions that are alike, and pages that aim at one phrase, unless they are kept out of search', () => {
    const judgement = new Judgement();
    const near = 'Night boat from Marrowick to Skerrow in winter';
    judgement.fill([
      pageOf(1, { title: 'Timetable', description: near, phrases: ['Night boat'] }),
      pageOf(2, { title: 'timetable!', description: `The ${near}`, phrases: ['night  BOAT', 'winter'] }),
      pageOf(3, { title: 'Timetable', phrases: ['night boat'] }, { isShown: false }),
      pageOf(4, { title: 'Fares' }),
    ]);
    expect(codesOf(judgement, 1)).toEqual(['title-same', 'description-near', 'phrase-shared']);
    expect(judgement.findingsOf(1 as PageId, worldAt('2026-06-01'))[0]).toMatchObject({
      params: { pages: ['Page 2'], more: 0 },
      place: { metadata: 'title' },
      message: 'The title is the same as that of Page 2.',
    });
    expect([codesOf(judgement, 3), codesOf(judgement, 4)]).toEqual([[], []]);
  });
  it('and says which pages have to be judged anew: those that changed, and all that said or now say the same', () => {
    const judgement = new Judgement();
    const pages = [pageOf(1, { title: 'One' }), pageOf(2, { title: 'Two' }), pageOf(3, { title: 'Two' })];
    expect([...judgement.fill(pages)].sort()).toEqual([1, 2, 3]);
    expect([...judgement.fill(pages)]).toEqual([]);
    const changed = [pages[0], pageOf(2, { title: 'One' }), pages[2]] as JudgedPage[];
    expect([...judgement.fill(changed)].sort()).toEqual([1, 2, 3]);
    expect([...judgement.fill(changed.slice(0, 2))]).toEqual([3]);
    expect([1, 2, 3].map((id) => codesOf(judgement, id))).toEqual([['title-same'], ['title-same'], []]);
  });
  it('as it would be from nothing, whatever changed before', () => {
    const title = fc.array(fc.constantFrom('boat', 'night', 'winter', 'skerrow', 'fare', 'crew'), { maxLength: 6 });
    const page = fc.record({ title, phrase: fc.constantFrom('', 'boat', 'fare'), isShown: fc.boolean() });
    const states = fc.array(fc.array(fc.option(page), { minLength: 5, maxLength: 5 }), { minLength: 2, maxLength: 4 });
    fc.assert(
      fc.property(states, (all) => {
        const judgement = new Judgement();
        const known = new Map<number, string>();
        const said = (judged: Judgement, id: number) =>
          judged
            .findingsOf(id as PageId, worldAt('2026-06-01'))
            .map(({ message }) => message)
            .sort()
            .join();
        for (const state of all) {
          const pages = state.flatMap((one, id) =>
            one
              ? [
                  pageOf(
                    id,
                    { title: one.title.join(' '), phrases: one.phrase ? [one.phrase] : [] },
                    { isShown: one.isShown },
                  ),
                ]
              : [],
          );
          for (const id of judgement.fill(pages)) known.set(id, said(judgement, id));
          // From nothing, and a few at a time.
          const afresh = new Judgement(pages);
          for (const page of pages) afresh.change([page], []);
          for (let id = 0; id < 5; id++) expect(known.get(id) ?? '').toBe(said(afresh, id));
        }
      }),
      { numRuns: 60 },
    );
  });
  it('says of many only that they are more, and looks at them again once they are not', () => {
    const judgement = new Judgement();
    const long = (n: number) => `Night boat from Marrowick to Skerrow in winter, with supper and music, number ${n}`;
    const of = (count: number, title: (n: number) => string) =>
      Array.from({ length: count }, (_, n) => pageOf(n, { title: title(n), phrases: ['boat'] }));
    for (const title of [long, () => 'Boats']) {
      let touched = 0;
      for (let count = 130; count > 0; count -= 1) {
        const pages = of(count, title);
        const again = judgement.fill(pages);
        for (const id of again) judgement.findingsOf(id, worldAt('2026-06-01'));
        if (count < 130) touched += again.size;
        if (count % 5 && (count > 24 || count < 19)) continue;
        const afresh = new Judgement();
        afresh.fill(pages);
        for (const { id } of pages.slice(0, 3)) {
          const all = [judgement, afresh].map((one) => one.findingsOf(id, worldAt('2026-06-01')));
          expect(all[0]).toEqual(all[1]);
          expect(all[0]?.[0]?.message.includes('more than 20 other pages')).toBe(count > 21);
        }
      }
      // Each page that goes touches the few that are left, and hardly ever the many.
      expect(touched).toBeLessThan(8_385 / 3);
      judgement.fill([]);
    }
  });
  it('finds every pair of texts that is nearly the same, as comparing each with each would', () => {
    const words = fc.array(fc.constantFrom(...'abcdefghij'), { minLength: 1, maxLength: 9 });
    fc.assert(
      fc.property(fc.array(words, { minLength: 2, maxLength: 12 }), fc.nat(12), (texts, first) => {
        const all = texts.map((one) => worded(one.join(' ')));
        const index = new WordIndex(all.slice(0, first));
        for (const [id, one] of all.entries()) index.put(id as PageId, one);
        for (const [id, one] of all.entries()) {
          const alike = (kind: string) =>
            all.flatMap((other, n) => (n !== id && likenessOf(one, other) === kind ? [n] : []));
          const [same, near] = [alike('same'), alike('near')];
          const found = index.of(id as PageId);
          expect(found && [found.how, found.ids]).toEqual(
            same.length ? ['same', same] : near.length ? ['near', near] : null,
          );
        }
      }),
    );
  });
  it('tells whole texts that are nearly the same from those that only share a part', () => {
    const words = (from: number, to: number) =>
      Array.from({ length: to - from }, (_, n) => `word${from + n}`).join(' ');
    const index = new TextIndex();
    const put = (id: number, said: string) => index.put(id as PageId, signatureOf(said));
    put(1, words(0, 400));
    put(2, `${words(0, 395)} changed here`);
    put(3, words(200, 600));
    put(4, 'too short to say');
    expect([1, 2, 3, 4].map((id) => index.of(id as PageId)?.ids)).toEqual([[2], [1], undefined, undefined]);
    put(2, words(900, 1_300));
    expect(index.of(1 as PageId)).toBeNull();
  });
  it('finds days that were to come when a text went live and have passed, once they are over everywhere', () => {
    const judgement = new Judgement();
    const document = text('Founded on 1 May 1987. Book until 24 December 2026, or come on 3 January 2027.');
    judgement.fill([pageOf(1, {}, { document, since: at('2026-11-01') })]);
    expect(codesOf(judgement, 1, worldAt('2026-12-25'))).toEqual([]);
    const later = judgement.findingsOf(1 as PageId, worldAt('2026-12-27'));
    expect(later).toMatchObject([
      { code: 'day-over', params: { text: '24 December 2026' }, place: { blockId: 'text1' } },
    ]);
    const { write, sizeOf } = worldAt('2026-12-27');
    expect([...judgement.passing(at('2026-12-25'), at('2026-12-27'), { write, sizeOf })]).toEqual([1]);
    expect([...judgement.passing(at('2026-12-27'), at('2026-12-28'), { write, sizeOf })]).toEqual([]);
  });
  it('reads days as people write them, and nothing that is none', () => {
    const read = (words: string) => daysIn(words, 'b').map(({ overAt }) => new Date(overAt).toISOString().slice(0, 10));
    expect(read('until Dec 24, 2026')).toEqual(['2026-12-25']);
    expect(read('bis 24. Dezember 2026')).toEqual(['2026-12-25']);
    expect(read('jusqu’au 24 décembre 2026')).toEqual(['2026-12-25']);
    expect(read('from 1 to 5 March 2026')).toEqual(['2026-03-06']);
    for (const none of ['next Monday', 'in 2026', 'March 2026', 'call 020 2026 1234', '{year}', 'room 2026', ''])
      expect(read(none)).toEqual([]);
  });
  it('finds a text in another language than it is marked, where there is enough of it to be sure', () => {
    const german =
      'Die Fähre nach Skerrow fährt jeden Morgen um acht und kommt am Abend zurück. Wer früher da ist, bekommt einen Platz am Fenster, und für Kinder ist die Fahrt an allen Tagen kostenlos. Fahrräder stehen vorne, Hunde dürfen mit.';
    const english =
      'The ferry to Skerrow leaves every morning at eight and comes back in the evening. Whoever is there early gets a seat at the window, and children travel free of charge on all days of the week. Bicycles stand at the front.';
    expect([languageOf(german), languageOf(english), languageOf('Guten Tag')]).toEqual(['de', 'en', null]);
    const judgement = new Judgement();
    const as = (id: number, words: string, language: string) => pageOf(id, {}, { document: text(words), language });
    judgement.fill([as(1, german, 'en-GB'), as(2, german, 'de-AT'), as(3, english, 'en'), as(4, german, 'kl')]);
    expect([1, 2, 3, 4].map((id) => codesOf(judgement, id))).toEqual([['language-other'], [], [], []]);
  });
  it('finds what is shared without a picture, or with one that is too small', () => {
    const judgement = new Judgement();
    judgement.fill([pageOf(1, {}, { sitePicture: null }), pageOf(2, { sharePictureId: 7 as never }), pageOf(3)]);
    const world = worldAt('2026-06-01', {
      sizeOf: (id) => ({ width: id === 7 ? 800 : 1_200, height: 630, isVector: false }),
    });
    expect([1, 2, 3].map((id) => codesOf(judgement, id, world))).toEqual([['share-missing'], ['share-small'], []]);
    expect(judgement.showing((id) => id === 7)).toEqual([2]);
    expect(judgement.showing((id) => id === 1)).toEqual([2, 3]);
    const drawn = worldAt('2026-06-01', { sizeOf: () => ({ width: 9_000, height: 9_000, isVector: true }) });
    expect(codesOf(judgement, 3, drawn)).toEqual(['share-missing']);
  });
  it('finds pages that end before their campaign, thank-you pages that can be found, and what has passed', () => {
    const judgement = new Judgement();
    const campaign = { name: 'Winter', until: at('2026-12-31') };
    const live = { from: at('2026-01-01'), until: at('2026-12-01') };
    const countdown = newBlock('countdown', 'count1', {
      ...{ to: 'moment', moment: { at: at('2026-05-01'), zone: 'UTC' } },
    });
    judgement.fill([
      pageOf(1, {}, { campaign, live }),
      pageOf(2, {}, { campaign }),
      pageOf(3, {}, { role: 'thank-you' }),
      pageOf(4, { robots: { noindex: true } }, { role: 'thank-you', isShown: false }),
      pageOf(5, {}, { document: { ...EMPTY_DOCUMENT, blocks: [countdown] } }),
    ]);
    expect([1, 2, 3, 4, 5].map((id) => codesOf(judgement, id))).toEqual([
      ['ends-early'],
      [],
      ['thanks-found'],
      [],
      ['countdown-passed'],
    ]);
    // What is off is nobody's trouble any more.
    expect(codesOf(judgement, 1, worldAt('2026-12-02'))).toEqual([]);
  });
});
