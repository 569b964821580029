import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { DAY, instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { dismissOverridden } from '../../src/features/drafts/overridden.js';
import { draft, saveDraft } from '../../src/features/drafts/service.js';
import { nameRevision, pageState, pageStates } from '../../src/features/drafts/states.js';
import { fillDrafts } from '../../src/features/drafts/filling.js';
import { draftSettings, setDrafts } from '../../src/features/drafts/setting.js';
import { draftsBack } from '../../src/features/drafts/many-drafts.js';
import { placePiece } from '../../src/features/drafts/placing.js';
import { accept, accepted, withdraw } from '../../src/features/fixing/acceptance.js';
import { mendDrafts, toFix } from '../../src/features/fixing/service.js';
import { newStock } from '../../src/features/stock/service.js';
import type { Severities } from '@domatium/core/checks';
import { newBlock, richTextOf, type PageDocument } from '@domatium/core/document';
import { Judge, judgementWork } from '../../src/features/fixing/index.js';
import { setSiteRules } from '../../src/features/people/sites.js';
import { register } from '../../src/features/register/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import { checkDrafts } from '../../src/heart/checks/index.js';
import { documentOf, World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

describe('the states of a page', () => {
  it('are its revisions and the drafts that lasted, each as it was', async () => {
    const id = await world.page('/states');
    const save = async (version: number, heading: string, account = 'owner', pause = 5 * MINUTE) => {
      await saveDraft(world.context(account), world.one, id, version, documentOf(heading));
      world.now = later(world.now, pause);
    };
    await save(1, 'One');
    // Keys typed in one go are one state: the last of them.
    await save(2, 'Tw', 'owner', 1_000);
    await save(3, 'Two');
    await save(4, 'Of the author', 'author', 1_000);
    await save(5, 'Mine again');
    expect(await nameRevision(world.context(), world.one, id, { name: 'Agreed', draftVersion: 6 })).toEqual({
      revision: 1,
    });
    await save(6, 'After it');
    const states = await pageStates(world.context(), world.one, id);
    expect(states.map(({ key, name, by }) => [key, name, by])).toEqual([
      ['r1', 'Agreed', 'owner'],
      ['v6', null, 'owner'],
      ['v5', null, 'author'],
      ['v4', null, 'owner'],
      ['v2', null, 'owner'],
    ]);
    const heading = async (key: string) =>
      (await pageState(world.context(), world.one, id, key)).document.blocks[0]?.fields['heading'];
    expect([await heading('v2'), await heading('v4'), await heading('v5'), await heading('r1')]).toEqual([
      'One',
      'Two',
      'Of the author',
      'Mine again',
    ]);
    await expect(pageState(world.context(), world.one, id, 'v99')).rejects.toMatchObject({ code: 'not-found' });
    await expect(pageState(world.context('stranger'), world.two, id, 'r1')).rejects.toMatchObject({
      code: 'not-found',
    });
  });
  it('get no name for a text that was changed meanwhile, and no second revision for one that is the same', async () => {
    const id = await world.page('/named');
    await expect(nameRevision(world.context(), world.one, id, { name: 'X', draftVersion: 9 })).rejects.toMatchObject({
      code: 'stale',
    });
    await nameRevision(world.context(), world.one, id, { name: 'First', draftVersion: 1 });
    expect(await nameRevision(world.context(), world.one, id, { name: 'Better', draftVersion: 1 })).toEqual({
      revision: 1,
    });
    expect((await pageStates(world.context(), world.one, id)).map(({ name }) => name)).toEqual(['Better']);
  });
});

describe('a text that another one’s took the place of', () => {
  it('is kept for the one who wrote it, who is told, until they have seen it; nobody else gets it', async () => {
    const id = await world.page('/overridden');
    await saveDraft(world.context('author'), world.one, id, 1, documentOf('By the author'));
    const block = documentOf('').blocks[0]?.id ?? '';
    await saveDraft(world.context('owner'), world.one, id, 2, documentOf('By the owner'), [block, 'page', 'nowhere']);
    const of = async (who: string) => (await draft(world.context(who), world.one, id)).overridden;
    const [page, own] = await of('author').then((all) => [
      all.find(({ block: one }) => one === null),
      all.find(({ block: one }) => one !== null),
    ]);
    expect([own?.by, own?.block?.fields['heading'], page?.metadata?.title]).toEqual([
      'owner',
      'By the author',
      'By the author',
    ]);
    expect(await of('owner')).toEqual([]);
    await expect(dismissOverridden(world.context('owner'), id, own?.id ?? 0)).rejects.toMatchObject({
      code: 'not-found',
    });
    expect(await of('author')).toHaveLength(2);
    for (const one of await of('author')) await dismissOverridden(world.context('author'), id, one.id);
    expect(await of('author')).toEqual([]);
    // One's own text over one's own is nobody's loss.
    await saveDraft(world.context('owner'), world.one, id, 3, documentOf('Again'), [block]);
    expect(await of('owner')).toEqual([]);
  });
});

describe('a piece on many pages', () => {
  it('is put on their drafts at once, as it was seen, and is taken back from those that nobody changed since', async () => {
    const content = [newBlock('quote', 'said1', { text: 'The boats run.' })];
    const { id: pieceId } = await newStock(world.context(), world.one, {
      kind: 'piece',
      name: 'Boats',
      content,
    } as never);
    const ids: number[] = [];
    for (let n = 0; n < 30; n++) ids.push(await world.page(`/placed-${n}`));
    const placing = { act: 'insert' as const, pieceId, where: 'after' as const, by: { type: 'opening' as const } };
    const place = (seen: { pageId: number; version: number }[] | null) =>
      placePiece(world.context('author'), world.one, placing, ids, seen);
    const looked = await place(null);
    expect([looked.pages.length, looked.out]).toEqual([30, []]);
    expect(looked.pages[0]?.lines.map(({ how }) => how)).toEqual(['same', 'new']);
    expect((await draft(world.context(), world.one, ids[0] as number)).version).toBe(looked.pages[0]?.version);
    const seen = looked.pages.map(({ pageId, version }) => ({ pageId, version }));

    // Somebody types meanwhile: nothing is written, and it is said where.
    const [first, second] = ids as [number, number];
    await saveDraft(world.context(), world.one, first, 1, documentOf('Meanwhile'));
    await expect(place(seen)).rejects.toMatchObject({
      message: expect.stringMatching(/has been changed since/) as unknown,
    });
    expect((await draft(world.context(), world.one, second)).version).toBe(1);

    const anew = (await place(null)).pages.map(({ pageId, version }) => ({ pageId, version }));
    const written = await place(anew);
    const typesOf = async (id: number) =>
      (await draft(world.context(), world.one, id)).document.blocks.map(({ type }) => type);
    expect(await typesOf(second)).toContain('piece');
    expect((await place(null)).out.map(({ why }) => why)).toEqual(Array.from({ length: 30 }, () => 'has-it'));

    const { version, document } = await draft(world.context(), world.one, first);
    await saveDraft(world.context(), world.one, first, version, {
      ...document,
      metadata: { ...document.metadata, title: 'Later' },
    });
    const back = written.pages.map(({ pageId, version: at }) => ({ pageId, version: at }));
    expect(await draftsBack(world.context(), world.one, back)).toEqual({ count: 29 });
    expect([await typesOf(first), await typesOf(second)].map((types) => types.includes('piece'))).toEqual([
      true,
      false,
    ]);
    await expect(placePiece(world.context('stranger'), world.two, placing, ids, null)).rejects.toMatchObject({
      code: 'not-found',
    });
  });
});

describe('texts by a pattern, and what is asked of search engines, in many drafts', () => {
  it('reach what has nothing of its own, as it was seen, and are taken back', async () => {
    const ids: number[] = [];
    const titles = ['Night boat', '', 'Day boat', ''];
    for (const [n, title] of titles.entries()) {
      const id = await world.page(`/filled-${n}`);
      const { version, document } = await draft(world.context(), world.one, id);
      const heading = n === 3 ? '‹Heading›' : `Heading ${n}`;
      const blocks = [newBlock('opening', 'opening1', { heading })];
      await saveDraft(world.context(), world.one, id, version, {
        ...document,
        metadata: { title, description: '' },
        blocks,
      });
      ids.push(id);
    }
    const [kept = 0, blank = 0] = ids;
    const fill = (more: object, seen: { pageId: number; version: number }[] | null = null) => {
      const filling = { what: 'title' as const, pattern: '', most: null, robots: null, over: false, ...more };
      return fillDrafts(world.context('author'), world.one, filling, ids, seen);
    };
    const seenIn = (view: Awaited<ReturnType<typeof fill>>) =>
      view.pages.map(({ pageId, version }) => ({ pageId, version }));
    const metadataOf = async (id: number) => (await draft(world.context(), world.one, id)).document.metadata;

    for (const [pattern, words] of [
      ['{first heading', 'partner'],
      ['{page title|"x"}', 'itself'],
      ['{tide} {site name}', '{tide}: there is no such value'],
    ])
      await expect(fill({ pattern })).rejects.toMatchObject({
        extra: { fields: [{ path: 'pattern', message: expect.stringContaining(words as string) as unknown }] },
      });
    await expect(fill({ what: 'robots', robots: { maxSnippet: -1 } })).rejects.toMatchObject({ code: 'invalid' });

    const pattern = '{first heading:8} at {site name}';
    const looked = await fill({ pattern });
    expect(looked.pages.map(({ pageId, before, after }) => [pageId, before, after])).toEqual([
      [blank, '', 'Heading at Site'],
    ]);
    expect(looked.out.map(({ why, missing }) => [why, missing])).toEqual([
      ['has-own', undefined],
      ['has-own', undefined],
      ['missing', '{first heading}'],
    ]);
    const all = await fill({ pattern, over: true });
    expect(all.pages).toHaveLength(3);
    const { version, document } = await draft(world.context(), world.one, kept);
    await saveDraft(world.context(), world.one, kept, version, { ...document, blocks: [] });
    await expect(fill({ pattern, over: true }, seenIn(all))).rejects.toMatchObject({ code: 'conflict' });
    expect((await metadataOf(blank)).title).toBe('');
    const written = await fill({ pattern }, seenIn(looked));
    // The value stays a name: it follows what the site is called.
    expect((await metadataOf(blank)).title).toBe('Heading at {site name}');
    expect((await fill({ pattern, over: true })).out.map(({ why }) => why)).toEqual(['missing', 'same', 'missing']);

    const robots = await fill({ what: 'robots', robots: { noindex: true } });
    expect([robots.pages.length, robots.pages[0]?.before, robots.pages[0]?.after]).toEqual([
      4,
      null,
      { noindex: true },
    ]);
    const hidden = await fill({ what: 'robots', robots: { noindex: true } }, seenIn(robots));
    expect((await metadataOf(kept)).robots).toEqual({ noindex: true });
    expect((await fill({ what: 'robots', robots: {} })).out.map(({ why }) => why)).toEqual(Array(4).fill('has-own'));
    expect(await draftsBack(world.context(), world.one, seenIn(hidden))).toEqual({ count: 4 });
    expect((await metadataOf(blank)).robots).toBeUndefined();
    // What was written before that is not the last change of those drafts any more: it stays.
    expect(await draftsBack(world.context(), world.one, seenIn(written))).toEqual({ count: 0 });
  });
});

describe('what is found on many pages', () => {
  it('is grouped by what it is, the most visited first, and mended in all of their drafts at once', async () => {
    const long = 'A title that goes on and on about boats, piers and the weather of the whole coast, and then some';
    const ids: number[] = [];
    for (const [n, title] of [long, `${long}, too`, 'Short', ''].entries()) {
      const id = await world.page(`/mended-${n}`);
      const { version, document } = await draft(world.context(), world.one, id);
      const blocks = [newBlock('opening', 'opening1', { heading: `Heading ${n}` })];
      await saveDraft(world.context(), world.one, id, version, {
        ...document,
        metadata: { title, description: 'Said' },
        blocks,
      });
      ids.push(id);
    }
    const [first = 0, second = 0, short = 0, blank = 0] = ids;
    const day = new Date(world.now - 3 * 86_400_000).toISOString().slice(0, 10);
    const visited = {
      portfolio_id: world.one,
      page_id: second,
      day,
      outcome: 'page',
      is_bot: false,
      visits: 40,
      answers: 40,
    };
    await world.database('visit_day').insert({ ...visited, host: 'one.example', path: '/mended-1' });
    await checkDrafts(world.database);
    const groupOf = async (code: string) =>
      (await toFix(world.context(), world.one)).find((group) => group.code === code);
    const titles = await groupOf('title-long');
    expect(titles?.found.slice(0, 2).map(({ pageId, visits }) => [pageId, visits])).toEqual([
      [second, 40],
      [first, 0],
    ]);
    expect(titles).toMatchObject({ severity: 'worth-fixing', visits: 40, mends: [{ code: 'shorten' }] });
    expect(await groupOf('title-missing')).toMatchObject({ severity: 'blocks', mends: [{ code: 'take' }] });
    expect((await toFix(world.context(), world.one))[0]?.severity).toBe('blocks');

    const mend = (seen: { pageId: number; version: number }[] | null) =>
      mendDrafts(world.context('author'), world.one, { code: 'title-long', mend: 'shorten' }, ids, seen);
    const looked = await mend(null);
    expect(looked.pages.map(({ pageId, lines }) => [pageId, lines[0]])).toEqual([
      [first, { words: long, how: 'gone' }],
      [second, { words: `${long}, too`, how: 'gone' }],
    ]);
    expect(looked.out.map(({ pageId }) => pageId)).toEqual([short, blank]);
    const written = await mend(looked.pages.map(({ pageId, version }) => ({ pageId, version })));
    const title = async (id: number) => (await draft(world.context(), world.one, id)).document.metadata.title;
    expect((await title(first)).length).toBeLessThanOrEqual(60);
    await checkDrafts(world.database);
    expect((await groupOf('title-long'))?.pageIds ?? []).not.toContain(first);
    const back = written.pages.map(({ pageId, version }) => ({ pageId, version }));
    expect(await draftsBack(world.context(), world.one, back)).toEqual({ count: 2 });
    expect(await title(second)).toBe(`${long}, too`);
    // What is in the bin, or all over, is nobody's work any more.
    await checkDrafts(world.database);
    await world.press([{ act: 'bin', pageId: first } as never]);
    expect((await groupOf('title-long'))?.pageIds).toEqual([second]);
  });
});

describe('something found on a page', () => {
  it('is let be with a reason in its one place until its end, by those who release; and counts again once it is over', async () => {
    const id = await world.page('/accepted');
    const { document } = await draft(world.context(), world.one, id);
    const contact = (at: string) => newBlock('contact', at, { name: 'Crew', phone: 'none' });
    await saveDraft(world.context(), world.one, id, 1, { ...document, blocks: [...document.blocks, contact('cont1')] });
    await checkDrafts(world.database);
    const blocking = async () =>
      (await preview(world.context(), world.one, { changes: [world.put(id, 'now')] })).findings.map(({ code }) => code);
    const counted = async () => (await register(world.context(), world.one, [id])).columns.findings;
    const listed = async () =>
      (await toFix(world.context(), world.one)).some(
        ({ code, pageIds }) => code === 'phone-impossible' && pageIds.includes(id),
      );
    expect([await blocking(), await counted(), await listed()]).toEqual([['phone-impossible'], [[0, 1, 0]], true]);
    const asked = { pageId: id, code: 'phone-impossible' as const, blockId: 'cont1', reason: 'There is none.' };
    const until = later(world.now, 60 * MINUTE);
    await expect(accept(world.context(), world.one, { ...asked, until: world.now })).rejects.toThrow();
    await expect(accept(world.context(), 2 as never, { ...asked, until })).rejects.toThrow();
    const elsewhere = await accept(world.context(), world.one, { ...asked, blockId: 'cont2', until });
    expect(await blocking()).toEqual(['phone-impossible']);
    await withdraw(world.context(), world.one, elsewhere.id);
    const { id: made } = await accept(world.context(), world.one, { ...asked, until });
    expect([await blocking(), await counted(), await listed()]).toEqual([[], [], false]);
    expect(await accepted(world.context(), world.one)).toMatchObject([
      { reason: 'There is none.', until, code: asked.code },
    ]);
    // Another one with the same fault is found.
    const two = [...document.blocks, contact('cont1'), contact('cont3')];
    await saveDraft(world.context(), world.one, id, 2, { ...document, blocks: two });
    expect(await blocking()).toEqual(['phone-impossible']);
    await saveDraft(world.context(), world.one, id, 3, { ...document, blocks: two.slice(0, -1) });
    expect(await blocking()).toEqual([]);
    const now = world.now;
    world.now = until;
    expect([await blocking(), await listed(), await accepted(world.context(), world.one)]).toEqual([
      ['phone-impossible'],
      true,
      [],
    ]);
    world.now = now;
    await withdraw(world.context(), world.one, made);
    await expect(withdraw(world.context(), world.one, made)).rejects.toThrow();
    expect(await blocking()).toEqual(['phone-impossible']);
  });
  it('is as serious as its site takes it, also what was found before', async () => {
    const id = await world.page('/taken');
    const { document } = await draft(world.context(), world.one, id);
    await saveDraft(world.context(), world.one, id, 1, { ...document, metadata: { title: 'T', description: '' } });
    await checkDrafts(world.database);
    const rules = (severities: Severities) => setSiteRules(world.context(), world.one, 1, { approvals: 0, severities });
    const counted = async () => (await register(world.context(), world.one, [id])).columns.findings;
    const [usual] = await Promise.all([counted(), rules({ 'description-missing': 'blocks' })]);
    expect([usual, await counted()]).toEqual([[[0, 0, 1]], [[0, 1, 0]]]);
    await expect(world.press([world.put(id, 'now')])).rejects.toThrow('description');
    await rules({ 'description-missing': 'off' });
    expect(await counted()).toEqual([]);
    await world.press([world.put(id, 'now')]);
    await rules({});
    expect(await counted()).toEqual([[0, 0, 1]]);
  });
});

describe('a portfolio is judged as a whole', () => {
  const texts = (title: string, words = 'Short.', metadata: object = {}) => ({
    metadata: { title, description: `About ${title}`, ...metadata },
    blocks: [
      newBlock('opening', 'opening1', { heading: 'Here' }),
      newBlock('text', 'text1', { body: richTextOf(words) }),
    ],
  });
  const out = async (path: string, document: PageDocument, ...more: object[]) => {
    const id = await world.page(path);
    await saveDraft(world.context(), world.one, id, 1, document);
    await world.press([{ ...world.put(id, 'now'), ...Object.assign({}, ...more) } as never]);
    world.now = later(world.now, MINUTE);
    return id;
  };
  const codesOf = async (id: number) => {
    const rows = await world.database('finding').where({ page_id: id, source: 'portfolio' }).orderBy('ordinal');
    return rows.map(({ code }: { code: string }) => code).filter((code) => !code.startsWith('share'));
  };
  const published = () => world.database('portfolio').where({ id: world.one }).increment('publication', 1);

  it('soon after each publication and as time goes on: only what changed is judged and written', async () => {
    await world.database('host').where({ portfolio_id: world.one }).update({ is_own: false });
    const day = new Date(later(world.now, 3 * DAY)).toISOString().slice(0, 10);
    const one = await out('/whole-1', texts('Winter boats', `Book until ${day}, that is soon.`));
    const two = await out('/whole-2', texts('Winter boats'));
    const judge = new Judge(world.database);
    const work = judgementWork(world.database, () => world.now);
    expect(await work.pending()).toContain(String(world.one));
    await judge.judge(world.one, world.now);
    expect(await work.pending()).not.toContain(String(world.one));
    expect([await codesOf(one), await codesOf(two)]).toEqual(Array(2).fill(['title-same', 'description-same']));
    const toFixOf = async (code: string, at: Instant | null = null) =>
      (await toFix(world.context(), world.one, at)).find((group) => group.code === code);
    expect((await toFixOf('title-same'))?.pageIds).toEqual(expect.arrayContaining([one, two]));
    // What a hand changes touches what said the same, and nothing else.
    await saveDraft(world.context(), world.one, two, 2, texts('Summer boats'));
    await world.press([world.put(two, 'now')]);
    world.now = later(world.now, MINUTE);
    await published();
    expect(await judge.judge(world.one, world.now)).toEqual({ judged: 2, written: 2 });
    expect(await judge.judge(world.one, world.now)).toEqual({ judged: 0, written: 0 });
    expect([await codesOf(one), await codesOf(two)]).toEqual([[], []]);
    // A worker that starts anew comes to the same, and writes nothing of it again.
    expect((await new Judge(world.database).judge(world.one, world.now)).written).toBe(0);
    // At another moment it is judged as it is then.
    const then = later(world.now, 6 * DAY);
    expect(await toFixOf('day-over')).toBeUndefined();
    expect((await toFixOf('day-over', then))?.pageIds).toEqual([one]);
    await judge.judge(world.one, then);
    expect(await codesOf(one)).toEqual(['day-over']);
    await world.press([
      { act: 'take-off', pageId: one as never, from: 'now', until: null, afterwards: { kind: 'gone' } },
    ]);
    await published();
    await judge.judge(world.one, later(then, MINUTE));
    expect(await codesOf(one)).toEqual([]);
  });
  it('for a moment that comes: links that will lead nowhere, drafts that are not out left out', async () => {
    const target = await out('/then-target', texts('Target'));
    const link = newBlock('callToAction', 'call1', {
      ...{ heading: 'Go', button: { label: 'Go', target: { kind: 'page', pageId: target } } },
    });
    const document = texts('Leading there');
    const leading = await out('/then-leading', { ...document, blocks: [...document.blocks, link] });
    await saveDraft(world.context(), world.one, leading, 2, { ...document, metadata: { title: '', description: '' } });
    const ends = later(world.now, 5 * DAY);
    await world.press([
      { act: 'take-off', pageId: target as never, from: world.wall(ends), until: null, afterwards: { kind: 'gone' } },
    ]);
    const codes = async (at: Instant) =>
      (await toFix(world.context(), world.one, at)).flatMap(({ code, pageIds }) =>
        pageIds.includes(leading) && !code.startsWith('share') ? [code] : [],
      );
    expect(await codes(later(ends, -MINUTE))).toEqual([]);
    expect(await codes(ends)).toEqual(['link-broken']);
    const before = later(world.now, -400 * DAY);
    expect((await toFix(world.context(), world.one, before)).flatMap(({ pageIds }) => pageIds)).toEqual([]);
  });
});

describe('texts of many drafts side by side', () => {
  it('are written as they were seen, each its own, all or none, and are taken back', async () => {
    const ids = [await world.page('/beside-1'), await world.page('/beside-2')];
    const [first = 0, second = 0] = ids;
    const read = async (pageIds: readonly number[] = [second, first]) =>
      (await draftSettings(world.context(), world.one, pageIds)).pages;
    const rows = await read();
    expect(rows.map(({ pageId, address }) => [pageId, address])).toEqual([
      [second, 'one.example/beside-2'],
      [first, 'one.example/beside-1'],
    ]);
    const set = (of: typeof rows, texts: (n: number) => object) =>
      setDrafts(
        world.context('author'),
        world.one,
        of.map(({ pageId, version }, n) => ({ pageId, version, texts: texts(n) })),
      );
    const written = await set(rows, (n) =>
      n ? { title: 'First {year}', shareTitle: 'Told' } : { description: 'Second' },
    );
    expect(written.pages).toHaveLength(2);
    const now = await read();
    expect(now.map(({ texts }) => [texts.title, texts.description, texts.shareTitle])).toEqual([
      [rows[0]?.texts.title, 'Second', ''],
      ['First {year}', rows[1]?.texts.description, 'Told'],
    ]);
    expect(now[1]?.values).toEqual({ year: expect.stringMatching(/^\d{4}$/) });
    // What is there already is not written, and words that are emptied are no words.
    expect(
      (await set(now, (n) => (n ? { shareTitle: '' } : { description: 'Second' }))).pages.map(({ pageId }) => pageId),
    ).toEqual([first]);
    expect((await draft(world.context(), world.one, first)).document.metadata).not.toHaveProperty('shareTitle');
    // One that has changed since refuses all.
    await expect(set(now, () => ({ title: 'Late' }))).rejects.toMatchObject({ code: 'conflict' });
    expect((await read()).map(({ texts }) => texts.title)).toEqual([rows[0]?.texts.title, 'First {year}']);
    const again = await set(await read(), () => ({ title: 'Both' }));
    expect(await draftsBack(world.context('author'), world.one, again.pages)).toEqual({ count: 2 });
    expect((await read()).map(({ texts }) => texts.title)).toEqual([rows[0]?.texts.title, 'First {year}']);
    // Pages of another portfolio are not there.
    expect((await draftSettings(world.context(), world.two, ids)).pages).toEqual([]);
  });
});
