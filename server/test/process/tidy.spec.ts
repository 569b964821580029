import { readdir, utimes, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { DAY, instant, later } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import { tidy } from '../../src/tidy/index.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

/** Bytes that were written days ago. */
async function old(kind: 'files' | 'originals', text: string): Promise<string> {
  const { blobs } = world.publisher;
  const bytes = Buffer.from(text);
  await blobs.write(kind, new Map([[sha256(bytes), bytes]]));
  const then = (Date.now() - 3 * DAY) / 1000;
  await utimes(blobs.fileOf(kind, sha256(bytes)), then, then);
  return sha256(bytes);
}

it('removes bytes that nothing leads to any more, and halves of killed writes; what is used, open or fresh stays', async () => {
  const { database, publisher } = world;
  const { blobs } = publisher;
  const file = (hash: string) => ({
    portfolio_id: 1,
    name: 'a.pdf',
    hash,
    ending: 'pdf',
    bytes: 1,
    created_at: new Date(),
  });
  const [used, deleted, shown] = [
    await old('files', 'used'),
    await old('files', 'deleted'),
    await old('files', 'shown'),
  ];
  const both = await old('files', 'of both portfolios');
  await database('stored_file').insert([used, deleted, shown, both].map(file));
  await database('stored_file').insert({ ...file(both), portfolio_id: 2 });
  await blobs.openTo(1, shown, 'pdf');
  await database('stored_file').where({ portfolio_id: 1 }).whereIn('hash', [deleted, shown, both]).delete();
  const [kept, orphan] = [await old('originals', 'an original'), await old('originals', 'of nobody')];
  await database('picture').insert({
    ...{ portfolio_id: 1, name: 'p', width: 1, height: 1, variants: '[]', original: kept, original_bytes: 1 },
  });
  const half = `${blobs.fileOf('files', used)}.abc.tmp`;
  const incoming = await blobs.incoming();
  const fresh = join(dirname(incoming), 'fresh');
  for (const path of [half, incoming, fresh]) await writeFile(path, 'x');
  const then = (Date.now() - 3 * DAY) / 1000;
  for (const path of [half, incoming]) await utimes(path, then, then);
  // On the day they were deleted they stay: nothing that is just being written down is taken for lost.
  await tidy(database, blobs, world.now);
  expect(await blobs.has('files', deleted)).toBe(true);
  await database('dropped_blob').update({ at: new Date(later(world.now, -2 * DAY)) });
  await tidy(database, blobs, world.now);
  const there = await Promise.all([used, deleted, shown, both].map((hash) => blobs.has('files', hash)));
  expect(there).toEqual([true, false, false, true]);
  expect(String(await blobs.readOpen(1, shown, 'pdf'))).toBe('shown');
  expect([await blobs.has('originals', kept), await blobs.has('originals', orphan)]).toEqual([true, false]);
  expect(await readdir(dirname(incoming))).toEqual(['fresh']);
  expect((await readdir(dirname(half))).filter((name) => name.endsWith('.tmp'))).toEqual([]);
});
