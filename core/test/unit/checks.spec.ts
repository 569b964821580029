import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  documentFindingsOf,
  sharedFindingsOf,
  type SharedSight,
  draftLinkFindingsOf,
  findingsOf,
  mendAll,
  mendsOf,
  searchFindingsOf,
  redirectFindingsOf,
  usually,
  type Finding,
  type KnownPage,
} from '../../src/checks/index.js';
import {
  applyEdit,
  EMPTY_DOCUMENT,
  documentFromJSON,
  filledTarget,
  isWrong,
  newBlock,
  typedOf,
  type Robots,
  typedTarget,
  richTextFromJSON,
  richTextOf,
  textsOf,
  plainTextOf,
  type PageDocument,
  type Fault,
} from '../../src/document/index.js';
import { headHtml, NOTHING_SAID } from '../../src/metadata/index.js';
import type { PageId, PictureId, PlanRowId, PortfolioId, RevisionId } from '../../src/plan/index.js';
import { compile, type Route } from '../../src/routing/index.js';
import { blockHtml, contextOf, worldOf } from '../../src/render/index.js';
import { fold, lengthOf, matches } from '../../src/text/index.js';
import type { Instant, Interval } from '../../src/time/index.js';
import type { FindingCode, MendCode } from '../../src/words/index.js';
import { compareDays, isBotAgent, writeChange } from '../../src/traffic/index.js';

const during = (from: number, until: number | null = null) => ({
  from: from as Instant,
  until: until as Instant | null,
});
const live = (path: string, id: number, when = during(0)): Route => ({
  path,
  layer: 'page',
  during: when,
  answer: { kind: 'page', pageId: id as PageId, revisionId: 1 as RevisionId, claimId: 1 as PlanRowId, artifact: null },
});
const to = (path: string, id: number, when = during(0)): Route => ({
  path,
  layer: 'after',
  during: when,
  answer: {
    kind: 'redirect',
    status: 301,
    target: { kind: 'page', pageId: id as PageId },
    pageId: Number(path.slice(1)) as PageId,
    sourceId: (100 + Number(path.slice(1))) as PlanRowId,
  },
});
const table = (...routes: Route[]) =>
  compile(
    [
      {
        host: 'a.example',
        version: 1,
        portfolioId: 1 as PortfolioId,
        routes,
        sites: [],
        pages: [1, 2, 3].map((id) => ({ pageId: id as PageId, path: `/${id}`, during: during(0) })),
      },
    ],
    { scheme: 'https', suffix: '', port: null },
  );
const opening = (fields = {}) => newBlock('opening', 'opening1', { heading: 'Heading', ...fields });
const linkTo = (id: number, blockId = `link${id}`) =>
  newBlock('callToAction', blockId, {
    heading: 'Ask',
    button: { label: 'Go', target: { kind: 'page', pageId: id as PageId } },
  });
const page = (...blocks: PageDocument['blocks'][number][]): PageDocument => ({
  metadata: { title: 'A title', description: 'A description' },
  blocks,
});
const says = (findings: readonly Finding[]) =>
  findings.map(({ severity, message }) => `${severity === 'blocks' ? '!' : '?'} ${message}`);
const names = { nameOf: (id: PageId) => `Page ${id}`, write: (at: Instant) => `minute ${at}` };

describe('one mend on all of a page', () => {
  it('leaves nothing that it could mend, changes nothing else, and shows every word that goes', () => {
    const text = fc.constantFrom('', '‹What it is›', 'Boats ‹and piers› run', 'x '.repeat(80), 'Quay');
    const blocks = fc
      .array(fc.tuple(text, text), { maxLength: 4 })
      .map((all) => all.map(([heading, more], n) => newBlock('quote', `quote00${n}`, { text: heading, name: more })));
    const documents = fc.tuple(text, text, blocks).map(([title, description, more]): PageDocument => ({
      metadata: { title, description },
      blocks: [opening(), ...more],
    }));
    const kinds = fc.constantFrom(
      ['placeholder', 'empty'],
      ['title-long', 'shorten'],
      ['description-long', 'shorten'],
      ['title-missing', 'take'],
    );
    fc.assert(
      fc.property(documents, kinds as fc.Arbitrary<[string, MendCode]>, (document, [code, mend]) => {
        const found = (one: PageDocument) => documentFindingsOf(one).filter((finding) => finding.code === code);
        const could = (one: PageDocument) =>
          found(one).filter((finding) => mendsOf(one, finding).some((way) => way.code === mend));
        const mended = mendAll(document, found, mend);
        if (!mended) return expect(could(document)).toEqual([]);
        expect(could(mended.document)).toEqual([]);
        const words = (one: PageDocument) =>
          [one.metadata.title, one.metadata.description, ...textsOf(one).map(({ value }) => value)].filter(Boolean);
        const gone = mended.lines.filter(({ how }) => how === 'gone').map((line) => line.words);
        const stays = new Set(words(mended.document));
        for (const one of words(document)) expect(stays.has(one) || gone.includes(one)).toBe(true);
      }),
    );
  });
});

describe('checks of a document', () => {
  it('block a page without title or with anything but one first heading', () => {
    expect(says(documentFindingsOf(page(opening())))).toEqual([]);
    expect(says(documentFindingsOf({ ...page(opening()), metadata: { title: ' ', description: 'x' } }))).toEqual([
      '! The page has no title.',
    ]);
    expect(says(documentFindingsOf(page()))).toEqual(['! The page has no first heading.']);
    expect(says(documentFindingsOf(page(opening({ heading: ' ' }))))).toEqual(['! The first heading is empty.']);
    const [finding] = documentFindingsOf(page(opening(), { ...opening(), id: 'opening2' }));
    expect(finding).toMatchObject({ severity: 'blocks', place: { blockId: 'opening2' } });
  });
  it('block a picture without description, wherever it stands, unless it is decorative', () => {
    const use = (description: string, isDecorative = false) => ({
      pictureId: 1 as PictureId,
      description,
      isDecorative,
    });
    const items = [
      { title: 'a', text: '', picture: null },
      { title: 'b', text: '', picture: use('') },
      { title: 'c', text: '', picture: use('', true) },
    ];
    const found = documentFindingsOf(
      page(opening({ picture: use('A boat') }), newBlock('reasons', 'reasons1', { items })),
    );
    expect(found).toMatchObject([
      { message: 'Reason 2: Picture has no description.', place: { blockId: 'reasons1', field: 'items[1].picture' } },
    ]);
    const dot = use('A dot').pictureId as number;
    expect(documentFindingsOf(page(opening({ picture: use('A dot') })), new Set([dot]))).toMatchObject([
      { code: 'picture-tiny', severity: 'worth-fixing', place: { blockId: 'opening1', field: 'picture' } },
    ]);
  });
  it('say what search engines would cut, with the figure', () => {
    const long = { metadata: { title: 'x'.repeat(61), description: '😀'.repeat(156) }, blocks: [opening()] };
    expect(says(documentFindingsOf(long))).toEqual([
      '? Title is 61 characters; about 60 are shown.',
      '? Description is 156 characters; about 155 are shown.',
    ]);
  });
});

describe('checks of what is shared', () => {
  const piece = (id: number) => newBlock('piece', `piece${id}`, { piece: { id } });
  const quote = (text: string) => newBlock('quote', 'quote1', { text });
  const shared: SharedSight = {
    // Live from 0 to 20 and from 20 to 40, as two revisions; what it says asks for a value too.
    piece: (id) =>
      id === 4 ? { name: 'Desk', periods: [during(20, 40), during(0, 20)], blocks: [quote('Ask {desk}')] } : null,
    values: ({ from, until }) =>
      [from, ...(from < 35 && (until ?? Infinity) > 35 ? [35 as Instant] : [])].map((start) => ({
        from: start,
        values: new Map([
          ['phone', start < 35 ? '+47 75 12 00 31' : 'call us'],
          ...(start < 35 ? [['desk', 'two'] as const] : []),
        ]),
      })),
  };
  const judge = (document: PageDocument, when: Interval) =>
    says(sharedFindingsOf({ document, during: when, shared, ...names }));
  it('block a piece that shows nothing at the start, and warn of one that comes to', () => {
    expect(judge(page(piece(4)), during(0, 30))).toEqual([]);
    expect(judge(page(piece(4)), during(0, 50))).toEqual([
      '? The piece “Desk” isn’t live from minute 40: visitors would see nothing of it.',
      '? {desk} has no value from minute 35: visitors would read it with its braces.',
    ]);
    expect(judge(page(piece(4)), during(40, 50))[0]).toMatch(/^! The piece “Desk” isn’t live when this page goes live/);
    expect(judge(page(piece(5)), during(0, 50))).toEqual([
      '! A piece isn’t live when this page goes live: visitors would see nothing of it.',
    ]);
  });
  it('block names without a value, once each, in texts, titles and pieces, and never in code', () => {
    const code = newBlock('ownHtml', 'own1', { code: '<script>f({ x })</script>', title: '{phone}' });
    expect(
      judge(
        { ...page(quote('{phone} {hotlien} {Hotlien}'), code), metadata: { title: '{yaer}', description: '' } },
        during(0, 9),
      ),
    ).toEqual([
      '! {yaer} has no value: visitors would read it with its braces.',
      '! {hotlien} has no value: visitors would read it with its braces.',
    ]);
    const call = newBlock('buttonRow', 'call1', {
      items: [{ button: { label: 'Call', target: { kind: 'phone', number: '{phone}' } } }],
    });
    expect(judge(page(call), during(0, 40))).toEqual([
      '? The link to {phone} leads nowhere from minute 35, with what the shared values hold.',
    ]);
    expect(judge(page(quote('{desk}'), piece(4)), during(36, 39))).toEqual([
      '! {desk} has no value: visitors would read it with its braces.',
    ]);
  });
});

describe('links with shared values', () => {
  const values = new Map([
    ['phone', '+47 75 12 00 31'],
    ['shop', 'https://shop.example/a b'],
    ['season', 'late autumn'],
  ]);
  const filled = (kind: 'phone' | 'mail' | 'outside', typed: string) => {
    const target = typedTarget(kind, typed);
    if (isWrong(target)) return target.code;
    const end = filledTarget(target, values);
    return end && typedOf(end);
  };
  it('are filled in and judged as what comes out; what stands around a name is judged as it is typed', () => {
    expect(filled('phone', '{phone}')).toBe('+4775120031');
    expect(filled('phone', '0{phone}')).toBe(null);
    expect(filled('phone', 'call {phone}')).toBe('phone-invalid');
    expect(filled('phone', '{season}')).toBe(null);
    expect(filled('mail', '{season}@shop.example')).toBe(null);
    expect(filled('outside', 'https://shop.example/?season={season}')).toBe(
      'https://shop.example/?season=late%20autumn',
    );
    expect(filled('outside', '{shop}')).toBe(null);
    expect(filled('outside', 'shop/{season}')).toBe('outside-incomplete');
    expect(filled('outside', 'javascript:{season}')).toBe('outside-scheme');
    expect(filled('outside', 'https://shop.example/{nobody}')).toBe(null);
  });
  it('and no page shows a link whose name holds nothing', () => {
    const button = { label: 'Call', target: typedTarget('phone', '{hotline}') };
    const block = newBlock('buttonRow', 'call1', { items: [{ button } as never] });
    const shown = (known: Map<string, string>) => blockHtml(block, contextOf(worldOf({ values: known }))).markup;
    expect(shown(new Map())).not.toMatch(/tel:|Call/);
    expect(shown(new Map([['hotline', '112']]))).toMatch(/href="tel:112"/);
  });
});

describe('checks in the plan', () => {
  const judge = (document: PageDocument, routes: ReturnType<typeof table>, when = during(10, 50)) =>
    says(
      findingsOf({
        ...names,
        document,
        pageId: 1 as PageId,
        during: when,
        planned: routes,
        current: routes,
        now: 5 as Instant,
      }),
    );
  it('block a link that leads nowhere at the start; warn of one that comes to, or leads through a redirect', () => {
    const document = page(opening(), linkTo(2));
    expect(judge(document, table(live('/2', 2)))).toEqual([]);
    expect(judge(document, table(live('/2', 2, during(11))))).toEqual([
      '! The link to Page 2 is broken when this goes live: that page is off.',
    ]);
    expect(judge(document, table(live('/2', 2, during(0, 30))))).toEqual([
      '? The link to Page 2 is broken from minute 30.',
    ]);
    expect(judge(document, table(live('/2', 2, during(0, 30)), to('/2', 3, during(30)), live('/3', 3)))).toEqual([
      '? The link to Page 2 leads through a redirect from minute 30.',
    ]);
    expect(judge(document, table(live('/2', 2, during(0, 60))))).toEqual([]);
  });
  it('leave a link to the page itself alone, and look into formatted text', () => {
    expect(judge(page(opening(), linkTo(1)), table())).toEqual([]);
    const body = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'x', marks: [{ type: 'link', attrs: { target: { kind: 'page', pageId: 3 } } }] },
          ],
        },
      ],
    };
    expect(judge(page(opening(), newBlock('text', 'text1', { body: body as never })), table())).toHaveLength(1);
  });
  it('block a redirect that is chosen and leads nowhere at its start, not an older one; a circle always', () => {
    const touched = [{ host: 'a.example', path: '/1' }];
    const judgeRedirects = (before: ReturnType<typeof table>, after: ReturnType<typeof table>, chosen: number[]) =>
      says(
        redirectFindingsOf({
          ...names,
          current: before,
          planned: after,
          touched,
          chosen: new Set(chosen),
          changed: [1 as PageId],
          now: 5 as Instant,
        }),
      );
    const [good, bad, loop] = [table(to('/1', 2), live('/2', 2)), table(to('/1', 2)), table(to('/1', 2), to('/2', 1))];
    expect(judgeRedirects(table(), bad, [101])).toEqual(['! The redirect at a.example/1 to Page 2 is broken.']);
    expect(judgeRedirects(good, bad, [])).toEqual(['? The redirect at a.example/1 to Page 2 is broken.']);
    expect(judgeRedirects(bad, bad, [])).toEqual([]);
    expect(judgeRedirects(good, loop, [])).toEqual([
      '! The redirect at a.example/1 leads round in a circle: a.example/1 → a.example/2 → a.example/1.',
    ]);
    const later = table(to('/1', 2), live('/2', 2, during(0, 30)));
    expect(judgeRedirects(table(), later, [101])).toEqual([
      '? The redirect at a.example/1 to Page 2 is broken from minute 30.',
    ]);
    // What a move left leads to its own page and gives what that gives: nothing to judge.
    const left = table(to('/1', 1));
    expect(judgeRedirects(table(), left, [101])).toEqual([]);
  });
});

describe('links of a draft, before it has a plan', () => {
  const rich = richTextFromJSON(
    {
      type: 'doc',
      content: [2, 3].map((id) => ({
        type: 'paragraph',
        content: [
          {
            type: 'text',
            text: `to ${id}`,
            marks: [{ type: 'link', attrs: { target: { kind: 'page', pageId: id } } }],
          },
        ],
      })),
    },
    '',
    [],
  );
  const draft = page(
    opening(),
    linkTo(1),
    linkTo(2),
    newBlock('text', 'text0001', { body: rich }),
    newBlock('pageList', 'list0001', { items: [{ page: { id: 2 } }, { page: { id: 3 } }] as never }),
  );
  const judged = (document: PageDocument, off: Record<number, KnownPage['off']>) =>
    draftLinkFindingsOf(document, 1 as PageId, (id) =>
      id in off ? { name: `Page ${id}`, off: off[id] ?? null } : null,
    );

  it('that lead to what was just binned, never released or ended are found; what is not known is not judged', () => {
    expect(says(judged(draft, { 2: 'binned', 3: 'never' }))).toEqual([
      '? The link to Page 2 is broken: that page is in the bin.',
      '? The link to Page 2 is broken: that page is in the bin.',
      '? The link to Page 3 is broken: that page was never released, and nothing is planned.',
      '? Page 2 stands in this list and is in the bin.',
    ]);
    expect(judged(draft, { 2: null, 3: 'ended' })).toHaveLength(1);
    expect(judged(draft, {})).toEqual([]);
    const named = {
      ...page(),
      metadata: { ...page().metadata, canonical: { kind: 'page' as const, pageId: 2 as PageId } },
    };
    const [off] = judged(named, { 2: 'ended' });
    expect([off?.code, off && mendsOf(named, off)]).toEqual([
      'canonical-off',
      [{ code: 'itself', label: 'Let this page stand for itself', edit: { kind: 'canonical', value: null } }],
    ]);
    // A link to the page itself is its own matter.
    expect(judged(draft, { 1: 'never' })).toEqual([]);
  });
  it('are taken out by a click, with the words left where they are', () => {
    let now: PageDocument = draft;
    for (let finding = judged(now, { 2: 'binned' })[0]; finding; finding = judged(now, { 2: 'binned' })[0]) {
      const [mend] = mendsOf(now, finding);
      now = (mend && applyEdit(now, mend.edit)?.document) as PageDocument;
      expect(judged(now, { 2: 'binned' })).not.toContainEqual(finding);
    }
    const body = now.blocks[3]?.fields['body'] as typeof rich;
    expect(plainTextOf(body)).toBe(plainTextOf(rich));
    expect(JSON.stringify(body)).toContain('"pageId":3');
    expect(now.blocks[2]?.fields['button']).toEqual({ label: 'Go', target: null });
    expect(now.blocks[4]?.fields['items']).toMatchObject([{ page: null }, { page: { id: 3 } }]);
    expect(now.blocks[1]).toEqual(draft.blocks[1]);
  });
});

describe('texts and figures', () => {
  it('fold as finding compares, and count what people count', () => {
    expect(fold('  Hestvær  ÅLESUND\tØy ')).toBe('hestvaer alesund oy');
    expect(fold('Łódź Straße œuvre Đorđe ıspanak')).toBe('lodz strasse oeuvre dorde ispanak');
    expect([matches('bla baer', ['Blåbær', 'x']), matches('bla zz', ['Blåbær'])]).toEqual([true, false]);
    expect([lengthOf('👨‍👩‍👧é'), lengthOf('')]).toEqual([2, 0]);
  });
  it('compare the last days with those before, and have no change where there is nothing to compare with', () => {
    expect(compareDays([1, 1, 2, 4], 2)).toEqual({ current: 6, before: 2, change: 2 });
    expect(compareDays([0, 0, 2, 4], 2).change).toBeNull();
    expect([writeChange(0.384), writeChange(-0.04), writeChange(0), writeChange(null)]).toEqual([
      '+38 %',
      '−4 %',
      '±0 %',
      null,
    ]);
  });
  it('know programs from people', () =>
    expect(
      [
        'Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36',
        'curl/8.1',
        'Examplebot/1.0 (+https://x.example/bot)',
        undefined,
      ].map(isBotAgent),
    ).toEqual([false, true, true, true]));
  it('keep formatted text to what pages may have, and say where it is not', () => {
    const faults: Fault[] = [];
    const read = richTextFromJSON(
      {
        type: 'doc',
        content: [
          { type: 'heading', attrs: { level: 1 }, content: [{ type: 'text', text: 'H' }] },
          { type: 'iframe' },
          {
            type: 'paragraph',
            content: [{ type: 'text', text: 'x', marks: [{ type: 'bold' }, { type: 'evil' }] }, { type: 'image' }],
          },
        ],
      },
      'body',
      faults,
    );
    expect(read.content.map(({ type }) => type)).toEqual(['heading', 'paragraph']);
    expect(faults).toHaveLength(3);
    expect(plainTextOf(richTextOf('One', 'Two'))).toBe('One Two');
    const deep = (n: number): object =>
      n ? { type: 'bulletList', content: [{ type: 'listItem', content: [deep(n - 1)] }] } : { type: 'paragraph' };
    richTextFromJSON({ type: 'doc', content: [deep(12)] }, 'body', faults);
    expect(faults.at(-1)?.message).toBe('Lists are nested too deeply.');
  });
  it('tell search engines what may be found, and escape what they are told', () => {
    const head = (isIndexable: boolean) =>
      headHtml({
        metadata: { title: '"><x>', description: 'd' },
        siteName: 's',
        canonical: isIndexable ? 'https://a.example/' : null,
        isIndexable,
        shareImage: null,
        said: NOTHING_SAID,
      }).markup;
    expect(head(true)).toContain('<title>&quot;&gt;&lt;x&gt;</title>');
    expect([
      head(true).includes('noindex'),
      head(false).includes('noindex'),
      head(false).includes('canonical'),
    ]).toEqual([false, true, false]);
  });
  const robots = fc.record(
    {
      noindex: fc.constant(true as const),
      nofollow: fc.constant(true as const),
      noarchive: fc.constant(true as const),
      maxSnippet: fc.nat(10_000),
      maxImagePreview: fc.constantFrom('none', 'standard', 'large'),
      unavailableAfter: fc.record({ at: fc.nat(4e12), zone: fc.constant('Europe/Oslo') }),
    },
    { requiredKeys: [] },
  );
  it('ask of them what the page asks, keep it through JSON, and say nothing where all is as usual', () => {
    fc.assert(
      fc.property(robots, (asked) => {
        const metadata = { title: 'T', description: '', robots: asked };
        const read = documentFromJSON(
          JSON.parse(JSON.stringify({ metadata: { ...metadata, robots: asked }, blocks: [] })),
        );
        expect(read).toEqual({ ok: true, value: { metadata, blocks: [] } });
        const { markup } = headHtml({
          metadata,
          siteName: 's',
          canonical: null,
          isIndexable: true,
          shareImage: null,
          said: NOTHING_SAID,
        });
        const [, content = ''] = /<meta name="robots" content="([^"]*)">/.exec(markup) ?? [];
        expect(content.split(', ').filter(Boolean)).toHaveLength(Object.keys(asked).length);
        expect(content.includes('noindex')).toBe(asked.noindex === true);
        // A page that is kept out anyway asks nothing else.
        expect(
          headHtml({
            metadata,
            siteName: 's',
            canonical: null,
            isIndexable: false,
            shareImage: null,
            said: NOTHING_SAID,
          }).markup,
        ).toContain('<meta name="robots" content="noindex">');
      }),
    );
    const pathsOf = (asked: object) => {
      const read = documentFromJSON({ metadata: { title: '', description: '', robots: asked }, blocks: [] });
      return read.ok ? [] : read.faults.map(({ path }) => path);
    };
    expect(
      pathsOf({
        noindex: 'yes',
        maxSnippet: -1,
        maxImagePreview: 'huge',
        unavailableAfter: { at: 1, zone: 'Nowhere' },
      }),
    ).toEqual(['noindex', 'maxSnippet', 'maxImagePreview', 'unavailableAfter'].map((key) => `metadata.robots.${key}`));
  });
  it('are told of thank-you pages that search engines may show, with a mend that keeps what else is asked of them', () => {
    const asked = fc.option(robots, { nil: null });
    fc.assert(
      fc.property(fc.constantFrom('thank-you', 'ordinary', 'home'), asked, asked, (role, own, said) => {
        const document = {
          ...EMPTY_DOCUMENT,
          metadata: { title: 'T', description: '', ...(own ? { robots: own as Robots } : {}) },
        };
        const search = { role, said: said as Robots | null };
        const [finding, ...others] = searchFindingsOf({ document, search });
        expect(others).toEqual([]);
        expect(finding !== undefined).toBe(role === 'thank-you' && !(own ?? said)?.noindex);
        if (!finding) return;
        const [mend] = mendsOf(document, finding);
        const mended = mend ? applyEdit(document, mend.edit)?.document : undefined;
        expect(mended?.metadata.robots).toEqual({ ...(own ?? said), noindex: true });
        expect(searchFindingsOf({ document: mended ?? document, search })).toEqual([]);
      }),
    );
  });
  it('call a page where it is shared as it says, else as it is called', () => {
    const head = (more: object) =>
      headHtml({
        metadata: { title: 'Title', description: 'Said', ...more },
        siteName: 's',
        canonical: null,
        isIndexable: true,
        shareImage: null,
        said: NOTHING_SAID,
      }).markup;
    expect(head({})).toContain(
      '<meta property="og:title" content="Title"><meta property="og:description" content="Said">',
    );
    const shared = head({ shareTitle: 'Look', shareDescription: '"at"' });
    expect(shared).toContain(
      '<meta property="og:title" content="Look"><meta property="og:description" content="&quot;at&quot;">',
    );
    expect(shared).toContain('<title>Title</title><meta name="description" content="Said">');
  });
});

describe('what visitors would miss, or meet as broken', () => {
  const codesOf = (...blocks: PageDocument['blocks']) =>
    documentFindingsOf({ metadata: { title: 'T', description: 'D' }, blocks }).map(({ code }) => code);
  const described = (description: string) =>
    newBlock('picture', 'picture1', { picture: { pictureId: 1 as PictureId, description, isDecorative: false } });
  it.each([
    [
      'a button that leads nowhere',
      'button-nowhere',
      newBlock('callToAction', 'ask00001', { button: { label: 'Book', target: null } }),
    ],
    ['a picture that is none', 'picture-missing', newBlock('picture', 'picture1', { picture: null })],
    ['the name of a file', 'picture-file-name', described('tiny.gif')],
    ['a number of a camera', 'picture-file-name', described('IMG_2041')],
    ['no number', 'phone-impossible', newBlock('contact', 'contact1', { phone: 'call me maybe' })],
    ['no address', 'mail-impossible', newBlock('contact', 'contact1', { mail: 'not an address' })],
    [
      'a person without a name',
      'person-nameless',
      newBlock('people', 'people01', { items: [{ name: '', role: 'Skipper', text: '', picture: null }] }),
    ],
    [
      'capitals',
      'heading-shouted',
      newBlock('quote', 'quote001', {}),
      newBlock('callToAction', 'ask00001', { heading: 'ALL CABINS ARE CHEAPER UNTIL THE END OF THE MONTH' }),
    ],
    [
      'a heading as long as a text',
      'heading-long',
      newBlock('callToAction', 'ask00001', { heading: 'Every cabin is cheaper '.repeat(7) }),
    ],
    [
      'own HTML that is not closed',
      'own-html-broken',
      newBlock('ownHtml', 'own00001', { title: 'x', code: '<div><p>One</p>' }),
    ],
  ] as [string, string, ...PageDocument['blocks'][number][]][])('%s', (_, code, ...blocks) =>
    expect(codesOf(...blocks)).toContain(code),
  );
  it('is none of it where all is well', () => {
    const link = { kind: 'outside', url: 'https://a.example/' } as const;
    const well = codesOf(
      newBlock('callToAction', 'ask00001', { heading: 'Book', button: { label: 'Book', target: link } }),
      described('A ferry at its berth'),
      newBlock('contact', 'contact1', { phone: '+47 55 51 20 00', mail: 'desk@a.example' }),
      newBlock('contact', 'contact2', { phone: '{hotline}', mail: '' }),
      newBlock('people', 'people01', { items: [{ name: 'Signe', role: '', text: '', picture: null }] }),
      newBlock('ownHtml', 'own00001', { title: 'x', code: '<ul><li>One<li>Two</ul><svg><path d="M0 0"/></svg><br>' }),
    );
    expect(well.filter((code) => code !== 'heading-none')).toEqual([]);
  });
  it('own CSS that hides the main heading, or writes in the colour of the ground', () => {
    const codes = (css: string) =>
      documentFindingsOf({ metadata: { title: 'T', description: 'D', css }, blocks: [] }).flatMap(({ code, params }) =>
        code === 'own-css' ? [(params as { fault: { code: string } }).fault.code] : [],
      );
    expect(codes('.opening h1 { visibility: hidden }')).toEqual(['css-hides-heading']);
    expect(codes('.button { color: #fff; background: #fff }')).toEqual(['css-unseen']);
    expect(codes('h1 em, .h1-like { display: none } .button { color: #fff; background: #000 }')).toEqual([]);
  });
  it('a link to a block that was taken off the page', () => {
    const blocks = [
      newBlock('callToAction', 'ask00001', { button: { label: 'About', target: { kind: 'block', blockId: 'about' } } }),
    ];
    expect(codesOf(...blocks)).toContain('place-missing');
  });
});

it('says of everything how serious it usually is, as the checks do', () => {
  const folders = ['checks', 'judgement'].map((name) => join(import.meta.dirname, '../../src', name));
  const sources = folders.flatMap((folder) =>
    readdirSync(folder).map((file) => readFileSync(join(folder, file), 'utf8')),
  );
  const said = sources.flatMap((source) =>
    [...source.matchAll(/found\(\s*'[\w-]+',\s*'(blocks|worth-fixing)',\s*'([\w-]+)'/g)].map(([, severity, code]) => [
      code,
      severity,
    ]),
  );
  expect(said.length).toBeGreaterThan(25);
  expect(said).toEqual(said.map(([code]) => [code, usually(code as FindingCode)]));
});
