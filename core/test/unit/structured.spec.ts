import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import jsonld from 'jsonld';
import { factFindingsOf } from '@domatium/core/checks';
import {
  EMPTY_DOCUMENT,
  FACT_FIELDS,
  FACT_KINDS,
  factsFromJSON,
  newBlock,
  richTextOf,
  type Fact,
  type PageDocument,
} from '@domatium/core/document';
import { BARE_FRAME, contextOf, pageHtml, worldOf } from '@domatium/core/render';
import { priceFrom, saidByPage } from '@domatium/core/structured';
import { instant } from '@domatium/core/time';

const ADDRESS = 'https://ferries.example/winter/night-boat';
const HEAD = {
  ...BARE_FRAME,
  ...{ siteName: 'Ferries', canonical: ADDRESS, homeAddress: 'https://ferries.example/winter', isIndexable: true },
};
const SCRIPT = /<script type="application\/ld\+json">([^]*?)<\/script>/;
type Node = Record<string, unknown> & { '@type': string };
function published(document: PageDocument, world: Parameters<typeof worldOf>[0] = {}, head = HEAD): Node[] {
  const text = SCRIPT.exec(pageHtml(document, head, contextOf(worldOf(world))))?.[1];
  return text === undefined ? [] : (JSON.parse(text) as { '@graph': Node[] })['@graph'];
}
const pageWith = (facts: readonly Fact[], blocks: PageDocument['blocks'] = []): PageDocument => ({
  metadata: { title: 'Night boat', description: 'Over the sound.', ...(facts.length ? { facts } : {}) },
  blocks,
});
const kindsOf = (nodes: readonly Node[]) => nodes.map((node) => node['@type']);
const ofKind = (nodes: readonly Node[], kind: string) => nodes.find((node) => node['@type'] === kind);
const concert: Fact = {
  kind: 'event',
  values: {
    start: { at: Date.UTC(2027, 6, 1, 18), zone: 'Europe/Oslo' },
    place: 'Old pier',
    address: 'Pier 1\nSkerrow',
  },
};

describe('structured data', () => {
  it('states the page, its site, its questions and its films by itself', () => {
    const item = (question: string, answer: string) => ({ question, answer: richTextOf(answer) });
    const nodes = published(
      pageWith(
        [],
        [
          newBlock('questions', 'q1', { items: [item('Do dogs sail?', 'For {fare}.'), item('And cats?', '')] }),
          newBlock('video', 'v1', {
            heading: 'The crossing',
            file: { id: 4 },
            picture: { pictureId: 2, description: 'Sea' } as never,
          }),
          newBlock('piece', 'p1', { piece: { id: 9 } }),
        ],
      ),
      {
        values: new Map([['fare', '20 kr']]),
        pictureOf: () => ({ width: 9, height: 9, variants: [{ width: 9, src: '/-/a.jpg' }] }),
        fileOf: () => ({ src: '/-/f.mp4', name: 'f', bytes: 1, ending: 'mp4', uploaded: '2026-05-01' }),
        pieceOf: () => [newBlock('questions', 'q2', { items: [item('Where from?', 'The old pier.')] })],
      },
    );
    expect(kindsOf(nodes)).toEqual(['Organization', 'WebSite', 'FAQPage', 'VideoObject']);
    expect(ofKind(nodes, 'FAQPage')).toMatchObject({
      url: ADDRESS,
      name: 'Night boat',
      mainEntity: [
        { name: 'Do dogs sail?', acceptedAnswer: { text: 'For 20 kr.' } },
        { name: 'Where from?', acceptedAnswer: { text: 'The old pier.' } },
      ],
    });
    expect(ofKind(nodes, 'VideoObject')).toEqual({
      '@type': 'VideoObject',
      ...{ name: 'The crossing', description: 'Over the sound.', uploadDate: '2026-05-01' },
      ...{ thumbnailUrl: 'https://ferries.example/-/a.jpg', contentUrl: 'https://ferries.example/-/f.mp4' },
    });
    // A page that may not be found states nothing.
    expect(published(pageWith([]), {}, { ...HEAD, isIndexable: false })).toEqual([]);
    expect(published(pageWith([]), {}, { ...HEAD, canonical: null as never })).toEqual([]);
  });

  it('states a fact once it is whole, with what the page says where nobody states it', () => {
    expect(kindsOf(published(pageWith([{ kind: 'event', values: {} }])))).not.toContain('Event');
    expect(ofKind(published(pageWith([concert])), 'Event')).toEqual({
      '@type': 'Event',
      ...{ name: 'Night boat', description: 'Over the sound.', startDate: '2027-07-01T20:00:00+02:00', url: ADDRESS },
      location: { '@type': 'Place', name: 'Old pier', address: 'Pier 1, Skerrow' },
      organizer: { '@type': 'Organization', name: 'Ferries' },
    });
    const priced = [newBlock('offer', 'o1', { heading: 'Winter pass', price: '{fare}' })];
    const world = { values: new Map([['fare', '1 190,50 €']]) };
    expect(ofKind(published(pageWith([{ kind: 'product', values: {} }], priced), world), 'Product')).toMatchObject({
      name: 'Winter pass',
      offers: { '@type': 'Offer', price: '1190.50', priceCurrency: 'EUR', url: ADDRESS },
    });
    const own = { currency: 'NOK', price: '{fare}' };
    expect(
      ofKind(
        published(pageWith([{ kind: 'product', values: own }], priced), { values: new Map([['fare', '1190']]) }),
        'Product',
      ),
    ).toMatchObject({ offers: { price: '1190', priceCurrency: 'NOK' } });
    const job = {
      posted: '2026-10-01',
      address: 'Skerrow',
      pay: '40000',
      payMost: '45000',
      per: 'MONTH',
      currency: 'NOK',
    };
    const told = [newBlock('text', 't1', { body: richTextOf('You steer the boat.') })];
    expect(ofKind(published(pageWith([{ kind: 'job', values: job }], told)), 'JobPosting')).toMatchObject({
      ...{ title: 'Night boat', description: 'You steer the boat.', datePosted: '2026-10-01' },
      baseSalary: { currency: 'NOK', value: { minValue: 40000, maxValue: 45000, unitText: 'MONTH' } },
    });
    const place = [
      newBlock('map', 'm1', { address: 'Pier 1', place: '54.5, -2.25' }),
      newBlock('contact', 'c1', { name: 'Boats', phone: '+47 1' }),
    ];
    expect(
      ofKind(published(pageWith([{ kind: 'business', values: { type: 'Store' } }], place)), 'Store'),
    ).toMatchObject({
      ...{ name: 'Boats', address: 'Pier 1', telephone: '+47 1' },
      geo: { latitude: 54.5, longitude: -2.25 },
    });
  });

  it('is read by a processor of JSON-LD as terms of one vocabulary, whatever is in it', async () => {
    const vocabulary = 'https://schema.org/';
    const documentLoader = (url: string) =>
      Promise.resolve({
        contextUrl: undefined,
        documentUrl: url,
        document: { '@context': { '@vocab': vocabulary } },
      } as never);
    const hostile = fc.constantFrom(
      '</script><script>x()</script>',
      '<!--',
      '"',
      '\\',
      '\u2028',
      '{a}',
      ']]>',
      '&lt;',
      '<!--~nav beside-->',
    );
    const fields = (kind: Fact['kind'], text: string): Fact => ({
      kind,
      values: Object.fromEntries(
        FACT_FIELDS[kind].flatMap(({ key, form }): [string, Fact['values'][string]][] =>
          form === 'moment'
            ? [[key, { at: 1e12, zone: 'UTC' }]]
            : typeof form === 'string'
              ? [[key, form === 'amount' ? '5' : text]]
              : [[key, form[0] as string]],
        ),
      ),
    });
    await fc.assert(
      fc.asyncProperty(hostile, hostile, fc.constantFrom(...FACT_KINDS), async (a, b, kind) => {
        const text = `Pier ${a}${b}`;
        const items = [{ question: text, answer: richTextOf(text) }];
        const document = pageWith([fields(kind, text)], [newBlock('questions', 'q1', { items })]);
        const html = pageHtml(
          { ...document, metadata: { ...document.metadata, title: text } },
          HEAD,
          contextOf(worldOf()),
        );
        expect(html.match(/<script/g)).toHaveLength(1);
        const graph = JSON.parse(SCRIPT.exec(html)?.[1] ?? '') as never;
        const expanded = (await jsonld.expand(graph, { documentLoader })) as Record<string, unknown>[];
        expect(expanded).toHaveLength(4);
        expect(JSON.stringify(expanded)).toContain(JSON.stringify(text).slice(1, -1));
        for (const key of expanded.flatMap((node) => Object.keys(node)))
          expect(key.startsWith('@') || key.startsWith(vocabulary)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('reads prices as they are written, and never guesses a currency', () => {
    const read = (text: string) => {
      const price = priceFrom(text);
      return price && `${price.amount} ${price.currency ?? '?'}`;
    };
    const prices = [
      '1,190 kr',
      '49,50 €',
      'from NOK 300',
      '£ 1.190',
      '1.190,00 EUR',
      'CHF 12’500.–',
      '$ 5',
      '1 190 kr for two',
      'Free',
      '',
      '{fare}',
    ];
    expect(prices.map(read)).toEqual([
      '1190 ?',
      '49.50 EUR',
      '300 NOK',
      '1190 GBP',
      '1190.00 EUR',
      '12500 CHF',
      '5 ?',
      '1190 ?',
      null,
      null,
      null,
    ]);
  });

  it('takes only what can be stated, each kind once, and says where it is wrong', () => {
    const faults = (json: unknown) => {
      const read = factsFromJSON(json);
      return read.ok ? read.value : read.faults.map(({ path, code }) => `${path} ${code}`);
    };
    expect(faults([concert])).toEqual([concert]);
    expect(
      faults([{ kind: 'product', values: { price: ' 49.50 ', currency: '{money}', brand: '', colour: 'x' } }]),
    ).toEqual([{ kind: 'product', values: { price: ' 49.50 ', currency: '{money}' } }]);
    const wrong = { price: '49,50', currency: 'euro', availability: 'Maybe', until: '2027-02-30' };
    expect(
      faults([
        { kind: 'product', values: wrong },
        { kind: 'product', values: {} },
        { kind: 'ship', values: {} },
      ]),
    ).toEqual([
      ...[
        '[0].price fact-amount',
        '[0].currency fact-currency',
        '[0].availability option-unknown',
        '[0].until fact-day',
      ],
      ...['[1] fact-unknown', '[2] fact-unknown'],
    ]);
    expect(faults([{ kind: 'event', values: { start: 'soon' } }])).toEqual(['[0].start moment-missing']);
    expect(faults([{ kind: 'event', values: { place: 5, name: ' ' } }])).toEqual(['[0].place not-text']);
    expect(faults('x')).toEqual([' not-a-list']);
  });

  it('finds what is missing or over before a page goes live', () => {
    const during = { from: instant(Date.UTC(2027, 0, 1)), until: null };
    const codes = (facts: readonly Fact[], blocks: PageDocument['blocks'] = []) =>
      factFindingsOf({ document: pageWith(facts, blocks), during, write: () => 'then' }).map(({ code, params }) => [
        code,
        params,
      ]);
    expect(codes([])).toEqual([]);
    expect(codes([concert])).toEqual([]);
    expect(codes([{ kind: 'event', values: { place: 'Pier' } }])).toEqual([
      ['fact-incomplete', { kind: 'event', missing: ['start', 'address'] }],
    ]);
    expect(
      codes([{ kind: 'event', values: { place: 'Pier' } }], [newBlock('map', 'm1', { address: 'Pier 1' })]),
    ).toEqual([['fact-incomplete', { kind: 'event', missing: ['start'] }]]);
    const over = { ...concert.values, end: { at: during.from, zone: 'UTC' } };
    expect(codes([{ kind: 'event', values: over }])).toEqual([['fact-over', { kind: 'event', at: during.from }]]);
    expect(
      saidByPage('event', {
        ...EMPTY_DOCUMENT,
        blocks: [],
        title: 'T',
        description: '',
        organization: '',
        fill: (text) => text,
      }),
    ).toEqual({ name: 'T' });
  });
});
