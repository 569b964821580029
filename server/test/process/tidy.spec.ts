import { readdir, utimes, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { DAY, instant, later, MINUTE } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import { saveDraft } from '../../src/features/drafts/index.js';
import { pageStates } from '../../src/features/drafts/states.js';
import { deletePages } from '../../src/features/pages/delete.js';
import { seen } from '../../src/features/pages/seen.js';
import { setKeepDays } from '../../src/features/people/service.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { tidy } from '../../src/features/tidy/index.js';
import { documentOf, World } from './harness.js';

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
  await tidy(world.publisher, world.now);
  expect(await blobs.has('files', deleted)).toBe(true);
  await database('dropped_blob').update({ at: new Date(later(world.now, -2 * DAY)) });
  await tidy(world.publisher, world.now);
  const there = await Promise.all([used, deleted, shown, both].map((hash) => blobs.has('files', hash)));
  expect(there).toEqual([true, false, false, true]);
  expect(String(await blobs.readOpen(1, shown, 'pdf'))).toBe('shown');
  expect([await blobs.has('originals', kept), await blobs.has('originals', orphan)]).toEqual([true, false]);
  expect(await readdir(dirname(incoming))).toEqual(['fresh']);
  expect((await readdir(dirname(half))).filter((name) => name.endsWith('.tmp'))).toEqual([]);
});

it('leaves of a page that is deleted for ever not a word, in no table and no file', async () => {
  const { database, publisher } = world;
  const word = 'Quillfeather';
  const id = await world.page('/secret', { name: 'Passing by' });
  for (let version = 1; version < 4; version++) {
    await saveDraft(world.context(), world.one, id, version, documentOf(`${word} ${version}`));
    world.now = later(world.now, MINUTE);
  }
  const { id: out } = await world.press([world.put(id, 'now')]);
  await publishReleases(publisher, world.one, [out as never]);
  const tablesWith = async () => {
    const tables = (await database('pg_tables')
      .whereIn('schemaname', ['public', 'pgboss'])
      .select('schemaname', 'tablename')) as { schemaname: string; tablename: string }[];
    const found: string[] = [];
    for (const { schemaname, tablename } of tables) {
      const { rows } = (await database.raw(`SELECT FROM ??.?? t WHERE t::text LIKE ? LIMIT 1`, [
        schemaname,
        tablename,
        `%${word}%`,
      ])) as { rows: unknown[] };
      if (rows.length) found.push(tablename);
    }
    return found.sort();
  };
  expect(await tablesWith()).toEqual(['draft', 'draft_state', 'revision']);
  const [{ artifact } = { artifact: '' }] = (await database('route').where({ page_id: id }).select('artifact')) as {
    artifact: string;
  }[];
  expect(String(await publisher.blobs.readPage(artifact))).toContain(word);
  world.now = later(world.now, MINUTE);
  await world.press([{ act: 'bin', pageId: id, afterwards: { kind: 'gone' }, cutsLater: true } as never]);
  world.now = later(world.now, MINUTE);
  await deletePages(world.context(), world.one, [id], 'Passing by');
  expect(await tablesWith()).toEqual([]);
  const file = publisher.blobs.fileOf('pages', artifact);
  await utimes(file, 1, 1);
  await tidy(publisher, world.now);
  expect(await publisher.blobs.has('pages', artifact)).toBe(true);
  await database('page')
    .where({ id })
    .update({ deleted_at: new Date(Date.now() - 2 * DAY) });
  await tidy(publisher, world.now);
  expect(await publisher.blobs.has('pages', artifact)).toBe(false);
});
/** A page with CSS of its own, out; gives the address of that file. */
async function withOwnCss(path: string, css: string) {
  const id = await world.page(path);
  const document = documentOf(`Page ${path}`);
  await saveDraft(world.context(), world.one, id, 1, { ...document, metadata: { ...document.metadata, css } });
  const { id: release } = await world.press([world.put(id, 'now')]);
  await publishReleases(world.publisher, world.one, [release as never]);
  const route = (await world.database('route').where({ page_id: id }).first('artifact')) as { artifact: string };
  const text = String(await world.publisher.blobs.readPage(route.artifact));
  const sheets = [...text.matchAll(/-\/([0-9a-f]{64})\.css/g)].map(([, hash = '']) => hash);
  const read = await Promise.all(sheets.map((hash) => world.publisher.blobs.readOpen(1, hash, 'css')));
  const hash = sheets[read.findIndex((bytes) => String(bytes).includes(css.slice(-8, -2).trim()))] ?? '';
  expect(hash).not.toBe('');
  await utimes(world.publisher.blobs.fileOf('files', hash), 1, 1);
  return { id, hash, artifact: route.artifact };
}

it('closes to visitors the files that no page asks for any more, and forgets what they hold', async () => {
  const { database, publisher } = world;
  const { blobs } = publisher;
  const kept = await withOwnCss('/kept-css', 'h1 { letter-spacing: 0.1px }');
  const gone = await withOwnCss('/gone-css', 'h1 { letter-spacing: 0.2px }');
  // As it was before it was noted what pages ask for.
  await database('render').update({ files: null });
  world.now = later(world.now, MINUTE);
  await world.press([{ act: 'bin', pageId: gone.id, afterwards: { kind: 'gone' }, cutsLater: true } as never]);
  await deletePages(world.context(), world.one, [gone.id], 'Page /gone-css');
  await database('page')
    .where({ id: gone.id })
    .update({ deleted_at: new Date(Date.now() - 2 * DAY) });
  await database('render').update({ made_at: new Date(Date.now() - 5 * DAY) });
  const open = async () =>
    Promise.all([kept, gone].map(async ({ hash }) => (await blobs.readOpen(1, hash, 'css')) !== null));
  await tidy(publisher, world.now);
  expect(await open()).toEqual([true, true]);
  await tidy(publisher, later(world.now, 2 * DAY));
  expect(await open()).toEqual([true, false]);
  await tidy(publisher, later(world.now, 2 * DAY));
  expect(await Promise.all([kept, gone].map(({ hash }) => blobs.has('files', hash)))).toEqual([true, false]);
  const [noted] = (await database('render').where({ artifact: kept.artifact }).select('files')) as {
    files: string[];
  }[];
  expect(noted?.files).toContain(`/-/${kept.hash}.css`);
});

it('keeps what visitors got for as long as the portfolio says, and says when it is no longer kept', async () => {
  const { database, publisher } = world;
  const { id, hash, artifact } = await withOwnCss('/old-times', 'h1 { letter-spacing: 0.3px }');
  const shown = () => seen(world.context(), world.one, id, later(world.now, -41 * DAY));
  const year = 400 * DAY;
  await database.raw("SELECT set_config('session_replication_role', 'replica', false)");
  for (const table of ['route', 'claim', 'period', 'placement', 'page_route'])
    await database(table)
      .where({ page_id: id })
      .update({
        from_at: new Date(world.now - year),
        ...(table === 'placement' || table === 'page_route' ? {} : { until_at: new Date(world.now - 40 * DAY) }),
      });
  await database.raw("SELECT set_config('session_replication_role', 'origin', false)");
  await database('render').update({ made_at: new Date(Date.now() - 5 * DAY) });
  await utimes(publisher.blobs.fileOf('pages', artifact), 1, 1);
  await tidy(publisher, later(world.now, 2 * DAY));
  expect([(await shown()).isPage, await publisher.blobs.has('pages', artifact)]).toEqual([true, true]);
  await setKeepDays(world.context(), world.one, 30);
  const after = await shown();
  expect([after.isPage, after.words]).toEqual([false, expect.stringContaining('no longer kept')]);
  await tidy(publisher, later(world.now, 2 * DAY));
  expect([await publisher.blobs.has('pages', artifact), await publisher.blobs.readOpen(1, hash, 'css')]).toEqual([
    false,
    null,
  ]);
  await setKeepDays(world.context(), world.one, null);
});

it('thins the states of drafts: all of the last hour, then those that lasted, then one a day', async () => {
  const id = await world.page('/thinned');
  // At noon: what is a day apart is not parted by a midnight.
  world.now = instant(Math.ceil(world.now / DAY) * DAY + DAY / 2);
  const began = world.now;
  let version = 1;
  const type = async (account: string, pause: number) => {
    await saveDraft(world.context(account), world.one, id, version, documentOf(`Words ${version}`));
    version++;
    world.now = later(world.now, pause);
  };
  // Ten keys a second apart, then a pause; and once more by somebody else.
  for (let n = 0; n < 10; n++) await type('owner', 1_000);
  world.now = later(world.now, 5 * MINUTE);
  for (let n = 0; n < 10; n++) await type('author', 1_000);
  world.now = later(world.now, 5 * MINUTE);
  await type('owner', MINUTE);
  const count = async () =>
    Number(((await world.database('draft_state').where({ page_id: id }).count('* as n').first()) as { n: string }).n);
  const shown = async () => (await pageStates(world.context(), world.one, id)).map(({ key }) => key);
  const before = await shown();
  await tidy(world.publisher, world.now);
  expect(await count()).toBe(21);
  await tidy(world.publisher, later(began, 3 * 60 * MINUTE));
  // What was shown is shown, and nothing else is kept.
  expect([await shown(), await count()]).toEqual([before, before.length]);
  await tidy(world.publisher, later(began, 40 * DAY));
  expect(await count()).toBeLessThan(before.length);
  expect(await count()).toBeGreaterThan(0);
});
