import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import { codesFromText, codesOn, NEW_CODE, runsOn, type Code, type CodeReach } from '@domatium/core/codes';
import type { HostId, PageId, ReleaseId } from '@domatium/core/plan';
import { instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { queryOfKnex, readParts, sha256 } from '@domatium/storage';
import { newStock, removeStock, saveStock } from '../../src/features/stock/service.js';
import { stockItem } from '../../src/features/stock/views.js';
import { choices } from '../../src/features/visits/index.js';
import { partsAt, publishReleases } from '../../src/heart/publishing/index.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { pagesUsing } from '../../src/heart/stock/index.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

const key = () => randomBytes(8).toString('hex');
const out = (id: number) => publishReleases(world.publisher, world.one, [id as ReleaseId]);
const code = (more: Partial<Code>): Code => ({ ...NEW_CODE, ...more });
const script = (text: string): Pick<Code, 'source'> => ({ source: { kind: 'script', script: text } });
const make = async (name: string, content: Code) =>
  (await newStock(world.context(), world.one, { kind: 'code', name, content } as never)).id;
const put = (itemId: number, until: number | null = null): StockChange => ({
  ...{ act: 'put', itemId, from: 'now' },
  until: until === null ? null : world.wall(until),
});
async function press(stock: readonly StockChange[], changes: readonly ReleaseChange[] = []): Promise<number> {
  const { id } = await release(world.context(), world.one, { changes, stock, idempotencyKey: key() });
  await out(id);
  world.now = later(world.now, MINUTE);
  return id;
}
async function livePage(path: string, site = 1): Promise<PageId> {
  const id = await world.page(path, { site });
  await press([], [world.put(id, 'now')]);
  return id;
}
/** What visitors of a page run, by what is behind the last slash of its address. */
async function runningOn(pageId: PageId, path: string, at: Instant = world.now): Promise<string[]> {
  const row = (await world.database('route').where({ page_id: pageId, layer: 'page' }).first()) as {
    host_id: HostId;
    path: string;
  };
  // Edges follow at once.
  await world.served(pageId, at);
  const parts = await partsAt(world.database, { hostId: row.host_id, path: row.path, pageId }, at);
  const hashes = parts?.codes ?? [];
  const texts = await readParts(queryOfKnex(world.database), hashes);
  const codes = codesFromText(hashes.map((hash) => texts.get(hash) ?? '').join(''));
  return codes ? codesOn(codes, path, pageId).map(({ src }) => src.split('/').at(-1) ?? '') : [];
}

describe('codes', () => {
  it('run on the pages they are meant for, change on all of them at once, and no page is published for it', async () => {
    const [one, quiet, below] = [await livePage('/one'), await livePage('/quiet/a'), await livePage('/two', 2)];
    const body = 'document.title += "!"';
    const measure = await make(
      'Measure',
      code({ source: { kind: 'address', url: 'https://count.example/c.js' }, except: [{ siteId: 1, path: '/quiet' }] }),
    );
    const own = await make('Own', code({ ...script(body), purpose: 'necessary', on: [{ pageId: below }] }));
    const renders = async () => ((await world.database('render').select('key')) as object[]).length;
    const before = await renders();
    const id = await press([put(measure), put(own)]);
    const file = `${sha256(body)}.js`;
    expect(await runningOn(one, '/one')).toEqual(['c.js']);
    expect(await runningOn(quiet, '/quiet/a')).toEqual([]);
    expect((await runningOn(below, '/two')).sort()).toEqual([file, 'c.js'].sort());
    // What is kept here is a file of the portfolio, opened with the release.
    expect((await world.publisher.blobs.readOpen(world.one, sha256(body), 'js'))?.toString()).toBe(body);
    expect((await stockItem(world.context(), world.one, own)).pages.map(({ pageId }) => pageId)).toEqual([below]);
    // Whatever else shows a page runs none.
    expect(await world.served(one)).not.toContain('count.example');
    const { draftVersion: version } = await stockItem(world.context(), world.one, measure);
    const content = code({ source: { kind: 'address', url: 'https://count.example/d.js' } });
    await saveStock(world.context(), world.one, measure, { version, name: 'Measure', content });
    const changed = await press([put(measure, world.now + 10 * MINUTE)]);
    expect(await runningOn(quiet, '/quiet/a')).toEqual(['d.js']);
    expect(await runningOn(one, '/one', later(world.now, 20 * MINUTE))).toEqual(['c.js']);
    await expect(removeStock(world.context(), world.one, measure)).rejects.toMatchObject({ code: 'in-use' });
    await out((await undo(world.context(), world.one, changed as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect([await runningOn(one, '/one'), await runningOn(quiet, '/quiet/a')]).toEqual([['c.js'], []]);
    await out((await undo(world.context(), world.one, id as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect(await runningOn(below, '/two')).toEqual([]);
    expect(await removeStock(world.context(), world.one, measure)).toEqual({});
    // What is the same on all sites is one line for all of them.
    const places = world.database('frame_place').where({ portfolio_id: 1, until_at: null });
    const [standing, lines] = [await places.clone(), await places.clone().distinct('codes')] as object[][];
    expect([standing?.length, lines?.length]).toEqual([2, 1]);
    expect(await renders()).toBe(before);
  });
  it('are listed with the same pages as they run on', async () => {
    const pages = [
      { siteId: 1, path: '/list', pageId: await livePage('/list') },
      { siteId: 1, path: '/list/a', pageId: await livePage('/list/a') },
      { siteId: 1, path: '/listed', pageId: await livePage('/listed') },
      { siteId: 2, path: '/list', pageId: await livePage('/list', 2) },
    ];
    const list: readonly CodeReach[] = [{ siteId: 1, path: '/list' }];
    const said: readonly Pick<Code, 'on' | 'except'>[] = [
      ...[
        { on: 'all' as const, except: list },
        { on: list, except: [] },
        { on: [{ siteId: 2, path: null }], except: [] },
      ],
      ...[
        { on: 'all' as const, except: [{ siteId: 1, path: '/' }] },
        { on: [{ pageId: pages[2]?.pageId ?? 0 }], except: [] },
      ],
      { on: [{ siteId: 1, path: null }], except: [{ pageId: pages[0]?.pageId ?? 0 }, ...list] },
    ];
    for (const [n, where] of said.entries()) {
      const id = await make(`List ${n}`, code({ ...script(`a${n}()`), ...where }));
      const item = { id, kind: 'code' as const, key: null, site_id: null };
      const used = async (isDraftMeant: boolean) =>
        (await pagesUsing(world.database, world.one, item, world.now, isDraftMeant)).map(({ page_id }) => page_id);
      const ids = pages.filter((page) => runsOn(where, page)).map(({ pageId }) => pageId);
      const among = (all: readonly PageId[]) => pages.flatMap(({ pageId }) => (all.includes(pageId) ? pageId : []));
      expect([n, among(await used(true)), await used(false)]).toEqual([n, ids, []]);
      await press([put(id)]);
      expect([n, among(await used(false))]).toEqual([n, ids]);
    }
  });
  it('are refused where they name what is not there, or have nothing to run yet', async () => {
    const invalid = { code: 'invalid' };
    await expect(make('x', code({ on: [{ siteId: 99, path: null }] }))).rejects.toMatchObject(invalid);
    await expect(make('x', code({ except: [{ pageId: 99_999 }] }))).rejects.toMatchObject(invalid);
    const empty = await make('Empty', NEW_CODE);
    await expect(press([put(empty)])).rejects.toThrow();
    expect(await removeStock(world.context(), world.one, empty)).toEqual({});
  });
  it('are told what visitors chose, and nothing of who', async () => {
    const day = new Date(world.now).toISOString().slice(0, 10);
    const row = {
      portfolio_id: 1,
      day,
      host: 'one.example',
      outcome: 'choice',
      page_id: null,
      is_bot: false,
      visits: 0,
    };
    await world.database('visit_day').insert([
      { ...row, path: '/-/choice/measuring=1&advertising=0', answers: 3 },
      { ...row, path: '/-/choice/measuring=0&advertising=0', answers: 1 },
      { ...row, path: '/-/choice/measuring=1', answers: 40, is_bot: true },
    ]);
    expect(await choices(world.database, world.one, 'Europe/Oslo', world.now, 30)).toEqual([
      { purpose: 'measuring', allowed: 3, refused: 1 },
      { purpose: 'advertising', allowed: 0, refused: 4 },
    ]);
  });
});
