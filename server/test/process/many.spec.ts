import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { ReleaseChange } from '@domatium/contracts';
import { tableOf as registerTableOf, rowOf, statesAt, STATES } from '@domatium/core/register';
import type { PageId } from '@domatium/core/plan';
import { later, MINUTE, type Instant } from '@domatium/core/time';
import { problemOf } from '../../src/platform/http/problem.js';
import { CancelledError, type Context } from '../../src/platform/database/context.js';
import { arrange } from '../../src/features/pages/arrange.js';
import { deletePages } from '../../src/features/pages/delete.js';
import { seen } from '../../src/features/pages/seen.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { register } from '../../src/features/register/service.js';
import { preview } from '../../src/heart/releases/preview.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { releaseOfKey } from '../../src/heart/releases/service.js';
import { World } from './harness.js';

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
const problem = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: Error & { extra?: { fields?: { path: string; message: string }[] } }) => ({
      status: problemOf(error).status,
      message: error.message,
      fields: error.extra?.fields ?? [],
    }),
  );
const some = async (n: number) => {
  const pages: PageId[] = [];
  for (let i = 0; i < n; i++) pages.push(await world.page(`/many-${++count}`));
  return pages;
};
async function row(id: PageId, at: Instant = world.now) {
  const table = registerTableOf((await register(world.context(), world.one)).columns);
  const index = table.rowOfId.get(id);
  if (index === undefined) return null;
  return { ...rowOf(table, index, at), state: STATES[statesAt(table, at)[index] as number] ?? 'binned' };
}
const bin = (pageId: PageId): ReleaseChange => ({ act: 'bin', pageId, afterwards: { kind: 'gone' } });
const restore = (pageId: PageId, isPlanned = true, path: string | null = null): ReleaseChange => ({
  act: 'restore',
  pageId,
  isPlanned,
  path,
});

describe('many at once', () => {
  it('releases all as one release that is undone whole; what one cannot do is said page by page', async () => {
    const pages = await some(40);
    const taken = await world.page(`/many-${count}`, { name: 'Second there' });
    const changes = [...pages, taken].map((id) => world.put(id, inMinutes(10), inMinutes(20)));
    const { faults } = await preview(world.context(), world.one, { changes });
    expect(faults.map(({ path }) => path)).toEqual(['changes[39].from']);
    expect((await problem(world.press(changes)))?.status).toBe(409);
    const { id } = await world.press(changes.slice(0, 40));
    expect((await row(pages[39] as PageId))?.periods).toHaveLength(1);
    await undo(world.context(), world.one, id, `undo-${id}-of-many`);
    for (const page of [0, 20, 39]) expect((await row(pages[page] as PageId))?.periods).toEqual([]);
  });
  it('cancels between any two steps with nothing changed, and says for certain whether it was decided', async () => {
    const pages = await some(30);
    const changes = pages.map((id) => world.put(id, inMinutes(10)));
    const tables = ['release', 'release_page', 'period', 'claim', 'revision', 'statement', 'audit'];
    const sizes = async () =>
      Promise.all(
        tables.map(async (table) => Number(((await world.database(table).count('* as n')) as { n: number }[])[0]?.n)),
      );
    const before = await sizes();
    const shares: number[] = [];
    for (let stop = 1; ; stop++) {
      let left = stop;
      const step: Context['step'] = (share) => {
        if (--left === 0) return Promise.reject(new CancelledError());
        shares.push(share);
        return Promise.resolve();
      };
      const key = `cancelled-${stop}`;
      const body = { changes, idempotencyKey: key };
      const cancelled = await release({ ...world.context(), step }, world.one, body).then(
        () => false,
        (error: unknown) => error instanceof CancelledError,
      );
      if (!cancelled) {
        expect((await releaseOfKey(world.context(), world.one, key)).release).not.toBeNull();
        expect(stop).toBeGreaterThan(6);
        break;
      }
      expect((await releaseOfKey(world.context(), world.one, key)).release).toBeNull();
      expect(await sizes()).toEqual(before);
    }
    expect(Math.max(...shares)).toBeLessThan(1);
  });
  it('shifts what is ahead by days, and sets what comes afterwards', async () => {
    const [page] = (await some(1)) as [PageId];
    await world.press([world.put(page, inMinutes(60), inMinutes(120))]);
    const from = (await row(page))?.periods[0]?.from as number;
    await world.press([{ act: 'shift', pageId: page, days: 3 }]);
    expect((await row(page))?.periods[0]?.from).toBe(from + 3 * 24 * 60 * MINUTE);
    const early = await problem(world.press([{ act: 'shift', pageId: page, days: -4 }]));
    expect(early?.fields[0]).toEqual({
      path: 'changes[0].days',
      code: 'shifted-into-the-past',
      params: {},
      message: 'It would begin or end in the past.',
    });
    await world.press([{ act: 'afterwards', pageId: page, afterwards: { kind: 'gone' } }]);
    const then = later(world.now, 5 * 24 * 60 * MINUTE);
    expect((await seen(world.context(), world.one, page, then)).words).toMatch(/gone/);
  });
  it('arranges campaign, owner and labels of all or none, and gives the way back', async () => {
    const pages = await some(3);
    const first = { id: pages[0] as number, version: 1, ownerId: 2, labels: ['winter', 'harbour', 'winter'] };
    const both = [first, { id: pages[1] as number, version: 1, labels: ['winter'] }];
    const { versions } = await arrange(world.context(), world.one, { pages: both });
    expect(versions).toEqual([
      [pages[0], 2],
      [pages[1], 2],
    ]);
    expect(await row(pages[0] as PageId)).toMatchObject({ owner: 'publisher', labels: ['harbour', 'winter'] });
    const stale = arrange(world.context(), world.one, {
      pages: [{ id: pages[2] as number, version: 1, labels: ['late'] }, first],
    });
    expect((await problem(stale))?.status).toBe(412);
    expect((await row(pages[2] as PageId))?.labels).toEqual([]);
    const foreign = arrange(world.context(), world.one, {
      pages: [{ id: pages[2] as number, version: 1, ownerId: 6 }],
    });
    expect((await problem(foreign))?.fields[0]?.path).toBe('pages[0].ownerId');
  });
});

describe('the bin', () => {
  it('takes a page off with all it had, and brings back what is still to come; undo does both ways', async () => {
    const [page] = (await some(1)) as [PageId];
    await world.press([world.put(page, 'now')]);
    world.now = later(world.now, MINUTE);
    const { id } = await world.press([bin(page)]);
    expect(await row(page)).toMatchObject({ state: 'binned', binnedSince: world.now });
    expect((await row(page, later(world.now, -1)))?.state).toBe('live');
    expect((await problem(world.press([world.put(page, inMinutes(9))])))?.fields[0]?.message).toMatch(/in the bin/);
    world.now = later(world.now, MINUTE);
    await undo(world.context(), world.one, id, `undo-${id}-bin`);
    expect((await row(page))?.state).toBe('live');
    world.now = later(world.now, MINUTE);
    await world.press([bin(page)]);
    world.now = later(world.now, MINUTE);
    const restored = await world.press([restore(page)]);
    expect((await row(page))?.state).toBe('live');
    world.now = later(world.now, MINUTE);
    await undo(world.context(), world.one, restored.id, `undo-${restored.id}-restore`);
    expect((await row(page))?.state).toBe('binned');
  });
  it('asks where the address has been taken meanwhile: another path, or back without its plan', async () => {
    const [page] = (await some(1)) as [PageId];
    await world.press([world.put(page, 'now')]);
    world.now = later(world.now, MINUTE);
    await world.press([bin(page)]);
    const other = await world.page(`/many-${count}`, { name: 'Took it' });
    await world.press([world.put(other, 'now')]);
    world.now = later(world.now, MINUTE);
    const { faults } = await preview(world.context(), world.one, { changes: [restore(page)] });
    expect(faults).toMatchObject([{ path: 'changes[0].path', code: 'address-taken', params: { page: 'Took it' } }]);
    await world.press([restore(page, true, `/many-${count}-back`)]);
    expect(await row(page)).toMatchObject({ state: 'live', path: `/many-${count}-back` });
    expect((await row(other))?.state).toBe('live');
  });
  it('deletes for ever after the name, leaves where it was and when, and is not undone', async () => {
    const [page, kept] = (await some(2)) as [PageId, PageId];
    await world.press([world.put(page, 'now')]);
    await publishReleases(
      world.publisher,
      world.one,
      (
        (await world.database('release').whereNull('published_at').where({ portfolio_id: 1 }).select('id')) as {
          id: number;
        }[]
      ).map(({ id }) => id as never),
    );
    const then = later(world.now, MINUTE / 2);
    world.now = later(world.now, MINUTE);
    expect((await problem(deletePages(world.context(), world.one, [page], 'x')))?.fields[0]?.path).toBe('pages');
    const { id } = await world.press([bin(page), bin(kept)]);
    world.now = later(world.now, MINUTE);
    const name = (await row(page))?.name ?? '';
    expect((await problem(deletePages(world.context(), world.one, [page], 'x')))?.fields[0]?.path).toBe('confirmation');
    expect(await deletePages(world.context(), world.one, [page], name)).toEqual({ deleted: 1 });
    expect(await row(page)).toBeNull();
    expect((await row(kept))?.state).toBe('binned');
    await world.database('release').update({ out_at: new Date(0) });
    expect(await seen(world.context(), world.one, page, then)).toMatchObject({
      isPage: false,
      words: expect.stringMatching(/deleted for ever/) as unknown,
    });
    expect((await problem(undo(world.context(), world.one, id, `undo-${id}-gone`)))?.message).toMatch(
      /deleted for ever/,
    );
    expect((await problem(world.press([restore(page)])))?.fields[0]?.message).toMatch(/deleted for ever/);
  });
});
