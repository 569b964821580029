import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { PageId } from '@domatium/core/plan';
import { resolve } from '@domatium/core/routing';
import { instant, later, MINUTE } from '@domatium/core/time';
import { BlobStore } from '@domatium/storage';
import type { BlobKind } from '@domatium/storage';
import { publishReleases, type Publisher } from '../../src/heart/publishing/index.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

/** A publisher that does something else in the middle of its first rendering. */
function interrupted(work: () => Promise<void>): Publisher {
  let isFirst = true;
  class Interrupted extends BlobStore {
    override batch(kind: BlobKind) {
      const batch = super.batch(kind);
      return {
        ...batch,
        commit: async () => {
          if (isFirst) {
            isFirst = false;
            await work();
          }
          await batch.commit();
        },
      };
    }
  }
  return { ...world.publisher, blobs: new Interrupted(world.folder) };
}

it('holds no transaction and no lock while it renders, and begins anew where another publication came between', async () => {
  const { database, publisher } = world;
  const [first, second] = [await world.page('/first'), await world.page('/second')];
  const { id: one } = await world.press([world.put(first, 'now')]);
  let open: unknown[] = [];
  const slow = interrupted(async () => {
    open = (
      (await database.raw(
        `SELECT a.query FROM pg_stat_activity a WHERE a.datname = current_database() AND a.xact_start IS NOT NULL AND a.pid <> pg_backend_pid()
         UNION ALL SELECT 'lock' FROM pg_locks l WHERE l.database = (SELECT oid FROM pg_database WHERE datname = current_database()) AND l.pid <> pg_backend_pid()`,
      )) as { rows: unknown[] }
    ).rows;
    world.now = later(world.now, MINUTE);
    const { id } = await world.press([world.put(second, 'now')]);
    await publishReleases(publisher, world.one, [id as never]);
  });
  await publishReleases(slow, world.one, [one as never]);
  expect(open).toEqual([]);
  const table = await world.routes();
  const kindAt = (path: string) => resolve(table, { host: 'one.example', path }, later(world.now, 1)).kind;
  expect([kindAt('/first'), kindAt('/second')]).toEqual(['page', 'page']);
  expect(await database('release').whereNull('published_at')).toEqual([]);
});

it('keeps what it rendered before it was killed, and goes on from there', async () => {
  const { database } = world;
  const pages: PageId[] = [];
  for (let n = 0; n < 3; n++) pages.push(await world.page(`/killed-${n}`));
  const { id } = await world.press(pages.map((page) => world.put(page, 'now')));
  const count = async () => Number(((await database('render').count('* as n').first()) as { n: string }).n);
  const before = await count();
  const killed: Publisher = {
    ...world.publisher,
    database: new Proxy(database, {
      get: (target, name) =>
        name === 'transaction'
          ? (work: (trx: unknown) => Promise<unknown>, config?: { readOnly?: boolean }) =>
              database.transaction(async (trx) => {
                const done = await work(trx);
                const out: unknown[] = await trx('release').where({ id }).whereNotNull('published_at');
                if (out.length) throw new Error('killed');
                return done;
              }, config)
          : (Reflect.get(target, name) as unknown),
    }),
  };
  await expect(publishReleases(killed, world.one, [id as never])).rejects.toThrow('killed');
  const routes = async () => ((await database('route').whereIn('page_id', pages)) as unknown[]).length;
  expect([await count(), await routes()]).toEqual([before + 3, 0]);
  const renders = (): Promise<unknown[]> => database('render').orderBy('key').select('key', 'made_at');
  const made = await renders();
  await publishReleases(world.publisher, world.one, [id as never]);
  expect(await renders()).toEqual(made);
  expect(await routes()).toBe(3);
});
