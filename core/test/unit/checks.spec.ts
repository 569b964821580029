import { describe, expect, it } from '@jest/globals';
import {
  documentFindingsOf,
  draftLinkFindingsOf,
  findingsOf,
  mendsOf,
  redirectFindingsOf,
  type Finding,
  type KnownPage,
} from '../../src/checks/index.js';
import {
  applyEdit,
  newBlock,
  richTextFromJSON,
  richTextOf,
  plainTextOf,
  type PageDocument,
} from '../../src/document/index.js';
import { headHtml } from '../../src/metadata/index.js';
import type { PageId, PictureId, PlanRowId, PortfolioId, RevisionId } from '../../src/plan/index.js';
import { compile, type Route } from '../../src/routing/index.js';
import { fold, lengthOf, matches } from '../../src/text/index.js';
import type { Instant } from '../../src/time/index.js';
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
  });
  it('say what search engines would cut, with the figure', () => {
    const long = { metadata: { title: 'x'.repeat(61), description: '😀'.repeat(156) }, blocks: [opening()] };
    expect(says(documentFindingsOf(long))).toEqual([
      '? Title is 61 characters; about 60 are shown.',
      '? Description is 156 characters; about 155 are shown.',
    ]);
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
    const faults: { path: string; message: string }[] = [];
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
        icons: null,
      }).markup;
    expect(head(true)).toContain('<title>&quot;&gt;&lt;x&gt;</title>');
    expect([
      head(true).includes('noindex'),
      head(false).includes('noindex'),
      head(false).includes('canonical'),
    ]).toEqual([false, true, false]);
  });
});
