import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { instant, later, MINUTE } from '@domatium/core/time';
import {
  BlobStore,
  openDatabase,
  queryOfKnex,
  readHostRoutes,
  readHostVersions,
  type StoredHost,
} from '@domatium/storage';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { backup, BackupError, restore } from '../../src/features/backup/index.js';
import { World } from './harness.js';

let world: World;
let place: string;
beforeAll(async () => {
  world = await World.open();
  place = mkdtempSync(join(tmpdir(), 'domatium-backup-'));
  world.now = instant(Date.now());
});
afterAll(async () => {
  await world.close();
  rmSync(place, { recursive: true });
});
const installation = () => ({ databaseUrl: world.url, dataFolder: world.folder });

/** A database with nothing in it, beside that of the world. */
async function emptyDatabase(name: string): Promise<string> {
  await world.database.raw(`DROP DATABASE IF EXISTS ${name}`);
  await world.database.raw(`CREATE DATABASE ${name}`);
  return world.url.replace(/\/[^/]*$/, `/${name}`);
}
async function routesOf(url: string): Promise<StoredHost[]> {
  const database = openDatabase(url);
  try {
    const query = queryOfKnex(database);
    const hosts = (await readHostVersions(query)).map(({ id }) => id);
    return await readHostRoutes(query, hosts, instant(0));
  } finally {
    await database.destroy();
  }
}

it('of a running installation gives the same bytes at the same moments', async () => {
  const folder = join(place, 'first');
  let isBusy = true;
  let published = 0;
  // Releases go on all the while: what is in the backup is whole, whenever it was.
  const working = (async () => {
    for (let n = 0; isBusy; n++) {
      world.now = later(world.now, MINUTE);
      const { id } = await world.press([world.put(await world.page(`/busy-${n}`), 'now')]);
      await publishReleases(world.publisher, world.one, [id as never]);
      published++;
    }
  })();
  while (published < 3) await new Promise((done) => setTimeout(done, 50));
  const { files } = await backup(installation(), folder);
  isBusy = false;
  await working;
  expect(files.length).toBeGreaterThan(10);
  const url = await emptyDatabase('restored_whole');
  const dataFolder = join(place, 'data');
  await restore({ databaseUrl: url, dataFolder }, folder);
  const [then, now] = [await routesOf(url), await routesOf(world.url)];
  const restored = new BlobStore(dataFolder);
  let pages = 0;
  for (const host of then) {
    const own = now.find(({ host: name }) => name === host.host);
    // Nothing that was decided is missing or changed: later releases only added.
    const all = new Set(own?.routes.map((route) => JSON.stringify({ ...route, during: null })));
    for (const route of host.routes) {
      expect(all).toContain(JSON.stringify({ ...route, during: null }));
      if (route.answer.kind !== 'page') continue;
      pages++;
      const bytes = await restored.readPage(route.answer.artifact ?? '');
      expect(bytes).toEqual(await world.publisher.blobs.readPage(route.answer.artifact ?? ''));
      expect(bytes).not.toBeNull();
    }
  }
  expect(pages).toBeGreaterThanOrEqual(3);
  await world.database.raw('DROP DATABASE restored_whole');
});
it('refuses what is there already, what is damaged, and what is no backup, and leaves nothing of it', async () => {
  const folder = join(place, 'second');
  await backup(installation(), folder);
  await expect(backup(installation(), folder)).rejects.toThrow(/is there already/);
  const url = await emptyDatabase('restored_not');
  const target = { databaseUrl: url, dataFolder: join(place, 'not') };
  await expect(restore({ ...target, databaseUrl: world.url }, folder)).rejects.toThrow(/holds tables already/);
  await expect(restore({ ...target, dataFolder: world.folder }, folder)).rejects.toThrow(/holds files already/);
  await expect(restore(target, place)).rejects.toThrow(/is no backup/);
  const [head = ''] = readdirSync(join(folder, 'blobs/pages'));
  const [page = ''] = readdirSync(join(folder, 'blobs/pages', head));
  const damaged = join(folder, 'blobs/pages', head, page);
  const bytes = readFileSync(damaged);
  writeFileSync(damaged, bytes.subarray(0, -1));
  await expect(restore(target, folder)).rejects.toThrow(BackupError);
  const database = openDatabase(url);
  expect(await database('pg_tables').where({ schemaname: 'public' })).toEqual([]);
  await database.destroy();
  await world.database.raw('DROP DATABASE restored_not');
  await expect(backup({ ...installation(), databaseUrl: `${world.url}_none` }, join(place, 'third'))).rejects.toThrow();
  expect(readdirSync(place)).not.toContain('third');
});
