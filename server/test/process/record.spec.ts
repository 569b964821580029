import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { RECORDED_ACTS } from '@domatium/core/words';
import { later, MINUTE } from '@domatium/core/time';
import { arrange } from '../../src/features/pages/arrange.js';
import { history, rename, sheet } from '../../src/features/pages/service.js';
import { setPortfolio, setSite } from '../../src/features/people/named.js';
import { everywhere } from '../../src/features/register/everywhere.js';
import { recordOf, recordRows, undoRecorded } from '../../src/features/record/service.js';
import { problemOf } from '../../src/platform/http/problem.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
});

const problem = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: Error) => ({ status: problemOf(error).status, message: error.message }),
  );
const told = async (asked: object = {}, isOwner = true) =>
  (await recordOf(world.context(), world.one, asked, isOwner)).entries;
const versionOf = async (id: number) =>
  ((await world.database('page').where({ id }).first('version')) as { version: number }).version;
const give = async (ids: readonly number[], what: object) =>
  arrange(world.context(), world.one, {
    pages: await Promise.all(ids.map(async (id) => ({ id, version: await versionOf(id), ...what }))),
  } as never);
const arrangedOf = async (id: number) => {
  const { owner_id, campaign_id } = (await world.database('page').where({ id }).first()) as Record<string, unknown>;
  const labels = await world.database('page_label').join('label', 'label.id', 'label_id').where({ page_id: id });
  return { owner_id, campaign_id, labels: labels.map(({ name }: { name: string }) => name).sort() };
};

describe('the record', () => {
  it('tells acts on many as one, from where to where, the newest first, and savings of a draft together', async () => {
    const pages = [await world.page('/record-a', { name: 'Alpha' }), await world.page('/record-b', { name: 'Beta' })];
    const [first = 0] = pages;
    await world.press(pages.map((id) => world.put(id, 'now')));
    world.now = later(world.now, MINUTE);
    await give(pages, { ownerId: 2, labels: ['night'] });
    world.now = later(world.now, MINUTE);
    await give([first], { ownerId: 1 });
    for (const text of ['one', 'two', 'three']) await world.rewrite(pages[1] as never, text);
    const entries = await told();
    expect(entries.slice(0, 4).map(({ words, subject, count }) => [words, subject, count])).toEqual([
      ['Edited the draft, saved 3 times', 'Beta', 3],
      [expect.stringMatching(/^Owner from .+ to .+$/), 'Alpha', 1],
      [expect.stringMatching(/^Owner to .+; labels night added$/), '2 pages', 2],
      [expect.stringContaining('Put revision 1 live'), '2 pages', 2],
    ]);
    expect(entries[3]).toMatchObject({ kind: 'visitors', by: 'owner' });
    // Filters, and what one page's history takes of it.
    expect((await told({ kind: 'pages', page: first })).map(({ words }) => words)).toEqual([
      entries[1]?.words,
      expect.stringMatching(/^Owner from .* to .*; labels night added$/),
      'Made the page at /record-a',
    ]);
    expect(await told({ by: 999 })).toEqual([]);
    expect(await told({ from: '2001-01-01', until: '2001-01-02' })).toEqual([]);
    expect((await recordOf(world.context(), world.two, {}, true)).entries.map(({ subject }) => subject)).not.toContain(
      'Alpha',
    );
    const rows = [];
    for await (const row of recordRows(world.context(), world.one, {}, true)) rows.push(row);
    expect(rows.slice(0, 4).map(({ what }) => what)).toEqual(entries.slice(0, 4).map(({ words }) => words));
  });

  it('is told part by part, nothing twice and nothing left out', async () => {
    const page = await world.page('/record-many');
    for (let n = 0; n < 130; n++) {
      world.now = later(world.now, 1000);
      await rename(world.context(), world.one, page, `Name ${n}`, await versionOf(page));
    }
    const seen: number[] = [];
    let before: number | undefined;
    for (;;) {
      const part = await recordOf(world.context(), world.one, before ? { before } : {}, true);
      seen.push(...part.entries.map(({ id }) => id));
      if (part.earlier === null) break;
      before = part.earlier;
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toEqual([...seen].sort((a, b) => b - a));
    const all = (await world.database('audit').where({ portfolio_id: 1, act: 'rename' }).select('id')) as {
      id: number;
    }[];
    expect(all.every(({ id }) => seen.includes(id))).toBe(true);
  });

  it('keeps what concerns people to owners, and knows words for every act there is', async () => {
    await world.database('audit').insert({
      ...{ portfolio_id: 1, at: new Date(world.now), account_id: 1, act: 'set-role', object: 'people', object_id: 2 },
      after: { was: 'author', role: 'publisher' },
    });
    expect((await told({}, false)).map(({ kind }) => kind)).not.toContain('people');
    expect((await told())[0]).toMatchObject({ words: 'Changed their role from author to publisher', kind: 'people' });
    const acts = (await world.database('audit').whereNull('release_id').distinct('act')) as { act: string }[];
    for (const { act } of acts) expect(RECORDED_ACTS).toContain(act);
  });

  it('gives owner, campaign and labels of an act back, all or none, and that is undone as well', async () => {
    const pages = [await world.page('/back-a', { name: 'A' }), await world.page('/back-b', { name: 'B' })];
    const before = await Promise.all(pages.map(arrangedOf));
    await give(pages, { ownerId: 2, labels: ['kept', 'night'] });
    const given = await Promise.all(pages.map(arrangedOf));
    const [{ id: act = 0 } = {}] = await told({ kind: 'pages' });
    world.now = later(world.now, MINUTE);
    await give([pages[1] ?? 0], { labels: ['other'] });
    expect(await problem(undoRecorded(world.context(), world.one, act))).toMatchObject({
      status: 409,
      message: expect.stringContaining('B has been changed since') as unknown,
    });
    expect(await arrangedOf(pages[0] ?? 0)).toEqual(given[0]);
    const [{ id: last = 0 } = {}] = await told({ kind: 'pages' });
    world.now = later(world.now, MINUTE);
    await undoRecorded(world.context(), world.one, last);
    world.now = later(world.now, MINUTE);
    expect(await undoRecorded(world.context(), world.one, act)).toEqual({ pages: 2 });
    expect(await Promise.all(pages.map(arrangedOf))).toEqual(before);
    const [{ id: undone = 0 } = {}] = await told({ kind: 'pages' });
    world.now = later(world.now, MINUTE);
    await undoRecorded(world.context(), world.one, undone);
    expect(await Promise.all(pages.map(arrangedOf))).toEqual(given);
    expect((await problem(undoRecorded(world.context('stranger'), world.two, act)))?.status).toBe(404);
  });
});

it('a move says from where to where', async () => {
  const page = await world.page('/from-here');
  await world.press([world.put(page, 'now')]);
  world.now = later(world.now, MINUTE);
  await world.press([{ act: 'move', pageId: page, at: 'now', siteId: 2, path: '/to-there', leaves: null }]);
  const [{ summary = '' } = {}] = await history(world.context(), world.one, page);
  const { host, path } = await sheet(world.context(), world.one, page, later(world.now, MINUTE));
  expect(summary).toContain(`Moved from one.example/from-here to ${host}${path} on `);
});

describe('what a portfolio and its sites are', () => {
  it('another zone leaves what is planned at its instants, and says on whose clock it was chosen', async () => {
    const page = await world.page('/on-that-clock');
    const from = later((Math.ceil(world.now / MINUTE) * MINUTE) as typeof world.now, 600 * MINUTE);
    await world.press([world.put(page, from)]);
    const was = (await world.database('portfolio').where({ id: 1 }).first('name', 'zone')) as {
      name: string;
      zone: string;
    };
    world.now = later(world.now, MINUTE);
    const changed = { name: 'Coast and isles', zone: 'Asia/Tokyo' };
    await setPortfolio(world.context(), world.one, changed);
    const shown = await sheet(world.context(), world.one, page, world.now);
    expect(shown.lines.map(({ from: at }) => at)).toContain(from);
    expect(shown.zones).toEqual([{ at: from, zone: was.zone }]);
    expect((await told({ kind: 'people' }))[0]?.words).toBe(
      `Renamed the portfolio from “${was.name}” to “Coast and isles”; Changed its zone from ${was.zone} to Asia/Tokyo`,
    );
    await setPortfolio(world.context(), world.one, was);
    expect((await sheet(world.context(), world.one, page, world.now)).zones).toEqual([]);
  });

  it('a site is renamed by who may, and one of another portfolio is none', async () => {
    const { name: was } = (await world.database('site').where({ id: 1 }).first('name')) as { name: string };
    await setSite(world.context(), world.one, 1, 'Ferries, renamed');
    expect((await told({ kind: 'people' }))[0]?.words).toBe(`Renamed the site from “${was}” to “Ferries, renamed”`);
    expect((await problem(setSite(world.context(), world.one, 3, 'Not mine')))?.status).toBe(404);
    await setSite(world.context(), world.one, 1, was);
  });

  it('pages of all portfolios are one list: by name first, counted by state, and of no others', async () => {
    await world.page('/every-a', { name: 'Lantern walk' });
    const other = await world.page('/every-b', { name: 'The lantern walk again', portfolio: world.two, site: 3 });
    const places = [
      { id: world.one, name: 'One', zone: 'Europe/Oslo' },
      { id: world.two, name: 'Two', zone: 'UTC' },
    ];
    const found = await everywhere(world.context(), places, { find: 'lantern walk', state: 'all' });
    expect(found.pages.map(({ name, portfolio, state }) => [name, portfolio, state])).toEqual([
      ['Lantern walk', 'One', 'draft'],
      ['The lantern walk again', 'Two', 'draft'],
    ]);
    expect([found.all, found.states.draft, found.states.live]).toEqual([2, 2, 0]);
    const one = await everywhere(world.context(), places.slice(0, 1), { find: '', state: 'all' });
    expect(one.pages.map(({ id }) => id)).not.toContain(other);
    expect(one.all).toBe(one.pages.length);
  });
});
