import { existsSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PageId } from '@domatium/core/plan';
import { instant, later, MINUTE } from '@domatium/core/time';
import { packPage, sha256 } from '@domatium/storage';
import sharp from 'sharp';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { ThumbnailDrawer } from '../../src/features/thumbnails/index.js';
import { thumbnail, thumbnailFile } from '../../src/features/thumbnails/service.js';
import * as store from '../../src/features/thumbnails/store.js';
import { doAll } from '../../src/platform/work/index.js';
import { World } from './harness.js';

const CHROMIUM = '/usr/bin/chromium';
let world: World;
let drawer: ThumbnailDrawer;
beforeAll(async () => {
  expect(existsSync(CHROMIUM)).toBe(true);
  world = await World.open();
  world.now = instant(Date.now());
  drawer = new ThumbnailDrawer(world.database, world.publisher.blobs, CHROMIUM);
  await drawer.start();
});
afterAll(async () => {
  drawer.stop();
  await world.close();
});

const ask = (id: PageId, at = world.now, has = true) => thumbnail(world.context(null), world.one, id, at, has);

describe('a small picture', () => {
  it('is of the stored page at the moment, made once, and another for another revision', async () => {
    const id = await world.page('/drawn');
    expect(await ask(id)).toMatchObject({ state: 'none', words: 'not found (404)' });
    const out = async () => {
      const { id: release } = await world.press([world.put(id, 'now')]);
      await publishReleases(world.publisher, world.one, [release as never]);
      await world
        .database('release')
        .where({ id: release })
        .update({ out_at: world.database.ref('at') });
      world.now = later(world.now, MINUTE);
    };
    await out();
    expect((await ask(id)).state).toBe('making');
    await doAll([drawer.work()]);
    const first = await ask(id);
    expect(first.state).toBe('ready');
    const bytes = await thumbnailFile(world.context(null), world.publisher.blobs, world.one, id, world.now);
    expect(await sharp(bytes).metadata()).toMatchObject({ format: 'webp', width: 320, height: 240 });
    // Words are on it: it is not one colour.
    expect((await sharp(bytes).stats()).entropy).toBeGreaterThan(0.1);
    const then = later(world.now, -1);
    await world.rewrite(id, 'Other words');
    await out();
    expect((await ask(id)).state).toBe('making');
    expect(await ask(id, then)).toEqual(first);
  });
  it('says what is missing where there is no Chromium, and gives up a page that can’t be drawn', async () => {
    const id = await world.page('/not-drawn');
    const { id: release } = await world.press([world.put(id, 'now')]);
    await publishReleases(world.publisher, world.one, [release as never]);
    await world
      .database('release')
      .where({ id: release })
      .update({ out_at: world.database.ref('at') });
    world.now = later(world.now, MINUTE);
    expect(await ask(id, world.now, false)).toMatchObject({
      state: 'missing',
      words: expect.stringContaining('Chromium'),
    });
    expect((await ask(id)).state).toBe('making');
    const broken = new ThumbnailDrawer(world.database, world.publisher.blobs, '/usr/bin/false');
    await broken.start();
    for (let n = 0; n < 3; n++) await doAll([broken.work()]);
    broken.stop();
    expect(await ask(id)).toMatchObject({ state: 'missing', words: 'The thumbnail of this page couldn’t be made.' });
  });
});

it('reaches nothing but its page, whatever the page asks for', async () => {
  const asked: string[] = [];
  const others = createServer((socket) => {
    asked.push('reached');
    socket.destroy();
  });
  await new Promise<void>((ready) => others.listen(0, '127.0.0.1', ready));
  const { port } = others.address() as AddressInfo;
  const at = (scheme: string) => `${scheme}://127.0.0.1:${port}/x`;
  const html = Buffer.from(
    `<!doctype html><h1>Words</h1>${['http', 'https'].map((scheme) => `<img src="${at(scheme)}"><iframe src="${at(scheme)}"></iframe>`).join('')}`,
  );
  const artifact = sha256(html);
  await world.publisher.blobs.write('pages', new Map([[artifact, await packPage(html)]]));
  await store.want(world.database, { artifact, pageId: 1 as PageId, parts: null }, world.now, 60);
  await drawer.work().run(artifact);
  others.close();
  expect([(await store.thumbnailOf(world.database, artifact))?.file !== null, asked]).toEqual([true, []]);
});

describe('wishes', () => {
  it('are few, the newest first, and made pictures beyond the limit are forgotten', async () => {
    const { database } = world;
    await database('thumbnail').delete();
    for (let n = 0; n < 8; n++)
      await store.want(database, { artifact: `a${n}`, pageId: 1 as PageId, parts: null }, later(world.now, n), 5);
    expect(await database('thumbnail')).toHaveLength(5);
    expect(await store.nextWanted(database)).toBe('a7');
    for (const n of [4, 5, 6, 7])
      await store.noteMade(database, `a${n}`, n === 7 ? 'same' : n === 4 ? 'same' : `f${n}`);
    expect(await store.nextWanted(database)).toBe('a3');
    expect((await store.forgetOldest(database, 2)).sort()).toEqual(['f5']);
  });
});
