import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { copyBody, type CopyBody, type ReleaseChange } from '@domatium/contracts';
import { newBlock, pageReferencesOf, picturesOf, type PageDocument } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { rowOf, tableOf as registerTableOf } from '@domatium/core/register';
import { instant, later, MINUTE, wallOf } from '@domatium/core/time';
import { problemOf } from '../../src/platform/http/problem.js';
import { copy, copyPreview } from '../../src/features/copies/service.js';
import { newPage } from '../../src/features/pages/service.js';
import { newStock } from '../../src/features/stock/service.js';
import { setTemplate, templates } from '../../src/features/pages/templates.js';
import {
  changePrepared,
  dropPrepared,
  prepare,
  preparedReleases,
  pressPrepared,
} from '../../src/heart/prepared/service.js';
import { changeTask, newTask, remindOfDue } from '../../src/features/tasks/service.js';
import { release } from '../../src/heart/releases/index.js';
import { register } from '../../src/features/register/service.js';
import { World, ZONE } from './harness.js';

let world: World;
let minute = 0;
let count = 0;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
  minute = Math.ceil(world.now / MINUTE) * MINUTE;
});
const inMinutes = (n: number) => minute + n * MINUTE;
const path = () => `/copied-${++count}`;
const problem = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: Error) => ({ status: problemOf(error).status, message: error.message }),
  );
const body = (pages: readonly number[], changes: Partial<CopyBody> = {}): CopyBody =>
  copyBody.cast({
    pages: [...pages],
    target: { portfolioId: 1, siteId: null },
    names: '{name}, copy',
    paths: '{path}-copy',
    ...changes,
  });
async function row(id: number, portfolio = world.one) {
  const table = registerTableOf((await register(world.context(), portfolio)).columns);
  return rowOf(table, table.rowOfId.get(id) as number, world.now);
}
async function draftOf(id: number): Promise<PageDocument> {
  const [found] = (await world.database('draft').where({ page_id: id }).select('document')) as {
    document: PageDocument;
  }[];
  return found?.document as PageDocument;
}

describe('prepared releases', () => {
  it('hold nothing, can be changed by one at a time, and are released like any other', async () => {
    const [a, b] = [await world.page(path()), await world.page(`/copied-${count}`)];
    const at = (id: PageId): ReleaseChange => world.put(id, inMinutes(30));
    const { id } = await prepare(world.context(), world.one, { name: 'First', changes: [at(a)] });
    expect((await row(a)).prepared).toEqual([{ from: inMinutes(30), until: null }]);
    expect((await row(a)).periods).toEqual([]);
    await world.press([at(b)]);
    const taken = await problem(pressPrepared(world.context(), world.one, id, 1, 'press-first-1'));
    expect(taken).toMatchObject({ status: 409, message: expect.stringContaining(`Page /copied-${count}`) as unknown });
    const earlier = { name: 'First', changes: [world.put(a, inMinutes(5), inMinutes(30))] };
    expect(await changePrepared(world.context(), world.one, id, 1, earlier)).toEqual({ version: 2 });
    expect((await problem(changePrepared(world.context(), world.one, id, 1, earlier)))?.status).toBe(412);
    const view = await pressPrepared(world.context(), world.one, id, 2, 'press-first-2');
    expect(await pressPrepared(world.context(), world.one, id, 2, 'press-first-2')).toEqual(view);
    expect((await row(a)).periods).toHaveLength(1);
    expect((await row(a)).prepared).toEqual([]);
    expect((await problem(dropPrepared(world.context(), world.one, id, 2)))?.status).toBe(404);
  });
  it('lapse when their time passes, say so, and are dropped without a trace', async () => {
    const page = await world.page(path());
    const changes = [world.put(page, inMinutes(2))];
    const { id } = await prepare(world.context(), world.one, { name: 'Late', changes });
    world.now = later(world.now, 10 * MINUTE);
    expect((await preparedReleases(world.context(), world.one))[0]).toMatchObject({ name: 'Late', isLapsed: true });
    const late = await problem(pressPrepared(world.context(), world.one, id, 1, 'press-late'));
    expect(late).toMatchObject({ status: 409, message: expect.stringContaining('nothing of it went live') as unknown });
    await dropPrepared(world.context(), world.one, id, 1);
    expect(await preparedReleases(world.context(), world.one)).toEqual([]);
    const foreign = await world.page(path(), { portfolio: world.two, site: 3 });
    const theirs = { name: 'Theirs', changes: [world.put(foreign, inMinutes(30))] };
    expect((await problem(prepare(world.context(), world.one, theirs)))?.status).toBe(422);
  });
});

describe('copies', () => {
  it('point to each other, keep links to others, and bring periods and redirects as a prepared release', async () => {
    const other = await world.page(path());
    await world.press([world.put(other, 'now')]);
    const first = await world.page(path(), { links: [other] });
    const second = await world.page(path(), { links: [first, other] });
    const redirect = { kind: 'redirect', status: 302, target: { kind: 'page', pageId: second } } as const;
    await world.press([world.put(first, inMinutes(60), inMinutes(120), redirect), world.put(second, inMinutes(60))]);
    const wanted = body([first, second], { withPeriods: true, days: 7 });
    const preview = await copyPreview(world.context(), world.one, wanted);
    expect(preview.links).toEqual({ inside: 1, outside: 2 });
    expect(preview.pages.map(({ newName, isFree }) => [newName, isFree])).toEqual([
      [`Page /copied-${count - 1}, copy`, true],
      [`Page /copied-${count}, copy`, true],
    ]);
    const { pages, preparedId } = await copy(world.context(), world.one, wanted);
    const [a = 0, b = 0] = pages;
    expect(pageReferencesOf(await draftOf(a))).toEqual([other]);
    expect(pageReferencesOf(await draftOf(b))).toEqual([a, other]);
    expect((await row(a)).prepared).toEqual([
      { from: inMinutes(60) + 7 * 1440 * MINUTE, until: inMinutes(120) + 7 * 1440 * MINUTE },
    ]);
    const [prepared] = await preparedReleases(world.context(), world.one);
    expect(prepared?.id).toBe(preparedId);
    expect(prepared?.changes[0]).toMatchObject({ afterwards: { target: { pageId: b } } });
    await pressPrepared(world.context(), world.one, preparedId as number, 1, 'press-copies');
    expect((await row(a)).periods).toHaveLength(1);
  });
  it('take along the bands that stood around them for a while, and what is said of each alone, shifted as they are', async () => {
    const page = await world.page(path());
    await world.press([world.put(page, inMinutes(60), inMinutes(120))]);
    const made = async (kind: 'band' | 'standing', content: object, key?: string) =>
      (await newStock(world.context(), world.one, { kind, name: `A ${kind}`, content, ...(key ? { key } : {}) })).id;
    const band = (words: string) =>
      made('band', { layout: 'information', blocks: [newBlock('legalLine', 'legal1', { words })] });
    const [own, ruled, everywhere] = [await band('Own'), await band('Ruled'), await band('Everywhere')];
    const says = { header: null, footer: null, isLocked: false };
    const rule = await made('standing', { ...says, bands: [ruled] }, `page:${page}`);
    await world.database.raw(
      `UPDATE draft SET document = jsonb_set(document, '{metadata,frame}', ?) WHERE page_id = ?`,
      [JSON.stringify({ header: null, footer: null, bands: [own] }), page],
    );
    const put = (itemId: number, until: number | null) =>
      ({
        act: 'put',
        itemId,
        from: world.wall(inMinutes(60)),
        until: until === null ? null : world.wall(until),
      }) as const;
    const stock = [
      put(own, inMinutes(120)),
      put(ruled, inMinutes(120)),
      put(everywhere, inMinutes(120)),
      put(rule, null),
    ];
    await release(world.context(), world.one, { changes: [], stock, idempotencyKey: 'bands-along' });
    world.now = later(world.now, 300 * MINUTE);
    const week = 7 * 1440 * MINUTE;
    const wanted = body([page], { withPeriods: true, days: 7 });
    const goAlong = { name: 'A band', from: inMinutes(60) + week, until: inMinutes(120) + week };
    expect((await copyPreview(world.context(), world.one, wanted)).bands).toEqual([goAlong, goAlong]);
    const { pages, preparedId } = await copy(world.context(), world.one, wanted);
    await pressPrepared(world.context(), world.one, preparedId as number, 1, 'press-bands');
    const holds = async (where: object) =>
      (await world
        .database('stock_period')
        .join('stock_item', 'stock_item.id', 'item_id')
        .where(where)
        .orderBy('from_at')
        .select('from_at', 'until_at')) as { from_at: number; until_at: number | null }[];
    for (const id of [own, ruled])
      expect((await holds({ item_id: id })).at(-1)).toEqual({ from_at: goAlong.from, until_at: goAlong.until });
    expect(await holds({ item_id: everywhere })).toHaveLength(1);
    expect(await holds({ key: `page:${pages[0]}` })).toEqual([{ from_at: goAlong.from, until_at: null }]);
  });
  it('make all or nothing: two of one address, a name too long, a page of somebody else', async () => {
    const pages = [await world.page(path()), await world.page(path())];
    const before = (await world.database('page').count('* as n')) as { n: number }[];
    const same = await problem(copy(world.context(), world.one, body(pages, { paths: '/the-same' })));
    expect(same).toMatchObject({ status: 422, message: expect.stringContaining('same address') as unknown });
    const long = await problem(copy(world.context(), world.one, body(pages, { names: 'x'.repeat(199) + '{name}' })));
    expect(long?.status).toBe(422);
    const foreign = await world.page(path(), { portfolio: world.two, site: 3 });
    expect((await problem(copy(world.context(), world.one, body([...pages, foreign]))))?.status).toBe(404);
    const after = (await world.database('page').count('* as n')) as { n: number }[];
    expect(Number(after[0]?.n)).toBe(Number(before[0]?.n) + 1);
  });
  it('in another portfolio list what is missing there, with a choice each', async () => {
    const other = await world.page(path());
    const page = await world.page(path(), { links: [other] });
    await world
      .database('draft')
      .where({ page_id: page })
      .update({ document: JSON.stringify(await withPicture(page)) });
    const target = { portfolioId: 2, siteId: 3 };
    const wanted = body([page], { target, names: '{name}', paths: '{path}' });
    // What a page chose to stand around it stays behind, and that is said.
    const part = { layout: 'row', blocks: [newBlock('brand', 'brand1', {})] };
    const made = { kind: 'header' as const, name: 'Own header', content: part };
    const { id: header } = await newStock(world.context(), world.one, made);
    await world.database.raw(
      `UPDATE draft SET document = jsonb_set(document, '{metadata,frame}', ?) WHERE page_id = ?`,
      [JSON.stringify({ header, footer: null, bands: null }), page],
    );
    const { missing, leftBehind } = await copyPreview(world.context(), world.one, wanted);
    expect(leftBehind).toEqual([{ kind: 'header', name: 'Own header', usedBy: 1 }]);
    expect(missing.map(({ kind, id, canCopy }) => [kind, id, canCopy])).toEqual([
      ['page', other, false],
      ['picture', 1, true],
    ]);
    const theirs = await world.page(path(), { portfolio: world.two, site: 3 });
    const choices: CopyBody['missing'] = [
      { kind: 'page', id: other, choice: 'use', useId: theirs },
      { kind: 'picture', id: 1, choice: 'copy', useId: null },
    ];
    const { pages } = await copy(world.context(), world.one, { ...wanted, missing: choices });
    const draft = await draftOf(pages[0] as number);
    expect(pageReferencesOf(draft)).toEqual([theirs]);
    expect(picturesOf(draft)[0]?.value.pictureId).toBe(2);
    expect(draft.metadata.frame).toBeUndefined();
    const left = await copy(world.context(), world.one, { ...wanted, paths: '{path}-left' });
    const without = await draftOf(left.pages[0] as number);
    expect([pageReferencesOf(without), picturesOf(without)]).toEqual([[], []]);
    const wrong = { ...wanted, missing: [{ kind: 'page' as const, id: other, choice: 'use' as const, useId: other }] };
    expect((await problem(copy(world.context(), world.one, wrong)))?.status).toBe(422);
  });
  it('keep their wall-clock times in a portfolio of another zone', async () => {
    const page = await world.page(path());
    await world.press([world.put(page, inMinutes(6000), inMinutes(9000))]);
    const zone = 'Australia/Lord_Howe';
    const own = (await world.database('portfolio').where({ id: 2 }).first('zone')) as { zone: string };
    await world.database('portfolio').where({ id: 2 }).update({ zone });
    const target = { portfolioId: 2, siteId: 3 };
    const { pages } = await copy(world.context(), world.one, body([page], { target, withPeriods: true }));
    const [prepared] = (await row(pages[0] as number, world.two)).prepared;
    await world.database('portfolio').where({ id: 2 }).update({ zone: own.zone });
    const wall = (at: number | null | undefined, place: string) => wallOf(instant(at ?? 0), place);
    expect([wall(prepared?.from, zone), wall(prepared?.until, zone)]).toEqual([
      wall(inMinutes(6000), ZONE),
      wall(inMinutes(9000), ZONE),
    ]);
    expect(prepared?.from).not.toBe(inMinutes(6000));
  });
  it('change the dates in their texts that somebody decided on, and no others', async () => {
    const page = await world.page(path(), { name: 'Night of 12 December 2026' });
    const wanted = body([page], { days: 364 });
    const { hits } = await copyPreview(world.context(), world.one, wanted);
    expect(hits.length).toBeGreaterThan(1);
    const [hit] = hits;
    const { place = '', start = 0, end = 0, proposal: by = '' } = hit ?? {};
    const texts = [{ pageId: page as number, place, start, end, by }];
    const { pages } = await copy(world.context(), world.one, { ...wanted, texts });
    const draft = JSON.stringify(await draftOf(pages[0] as number));
    expect(draft.match(/11 December 2027/g)).toHaveLength(1);
    expect(draft).toContain('12 December 2026');
  });
});

it('templates are what pages are made from: the page remembers, the template lists, another portfolio has none of it', async () => {
  const page = await world.page(path(), { name: 'Offer of the month' });
  await setTemplate(world.context(), world.one, page, { version: 1, isTemplate: true, notes: 'Change the month.' });
  const made = await newPage(world.context(), world.one, {
    siteId: 1,
    start: 'blank',
    name: 'Offer of May',
    path: path(),
    templateId: page,
  });
  expect((await draftOf(made.id)).metadata.title).toBe('Offer of the month');
  expect(await templates(world.context(), world.one)).toMatchObject([
    { name: 'Offer of the month', notes: 'Change the month.', pages: [{ id: made.id, name: 'Offer of May' }] },
  ]);
  const elsewhere = { siteId: 3, start: 'blank' as const, name: 'Not mine', path: path(), templateId: page };
  expect((await problem(newPage(world.context(), world.two, elsewhere)))?.status).toBe(422);
});

async function withPicture(page: PageId): Promise<PageDocument> {
  const document = await draftOf(page);
  const picture = { pictureId: 1, description: 'A boat', isDecorative: false } as never;
  const blocks = document.blocks.map((block, index) =>
    index ? block : { ...block, fields: { ...block.fields, picture } },
  );
  return { ...document, blocks };
}

describe('tasks', () => {
  const mails = async () =>
    (await world.database('mail').orderBy('id').select('recipient', 'subject')) as {
      recipient: string;
      subject: string;
    }[];
  it('tell whoever is to do them, are seen in the register, and remind once a day when they are due', async () => {
    const page = await world.page(path(), { name: 'Needs work' });
    const day = '2026-06-03';
    world.now = instant(Date.UTC(2026, 5, 2, 9));
    const task = { text: 'Mend the picture', personId: 3, dueDay: day };
    const { id } = await newTask(world.context(), world.one, page, task);
    expect(await mails()).toEqual([{ recipient: 'author@one.example', subject: 'To do: Mend the picture' }]);
    expect((await row(page)).tasks).toEqual({ open: 1, due: Date.parse(day) / 86_400_000 });
    expect(await remindOfDue(world.database, world.now)).toBe(0);
    const early = instant(Date.UTC(2026, 5, 3, 4, 59));
    expect(await remindOfDue(world.database, early)).toBe(0);
    expect(await remindOfDue(world.database, instant(early + MINUTE))).toBe(1);
    expect(await remindOfDue(world.database, instant(early + 5 * MINUTE))).toBe(0);
    expect((await mails()).at(-1)).toEqual({ recipient: 'author@one.example', subject: 'Due: Mend the picture' });
    await changeTask(world.context('author'), world.one, id, { version: 1, isDone: true });
    expect((await row(page)).tasks).toBeNull();
    expect((await problem(changeTask(world.context(), world.one, id, { version: 1, text: 'x' })))?.status).toBe(412);
    const stranger = newTask(world.context(), world.one, page, { ...task, personId: 6 });
    expect((await problem(stranger))?.status).toBe(422);
  });
});
