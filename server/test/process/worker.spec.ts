import { readdirSync } from 'node:fs';
import { get, type IncomingMessage } from 'node:http';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { codeOf } from '@domatium/contracts';
import { instant, later, MINUTE, writeInstant, type Instant } from '@domatium/core/time';
import { BlobStore, openDatabase } from '@domatium/storage';
import request from 'supertest';
import type { ReleaseId } from '@domatium/core/plan';
import { buildApp, EventHub, publishingWork, publishPlans, undo, WorkEngine } from '../../src/index.js';
import { isTrouble, type Work } from '../../src/platform/work/index.js';
import { checkDrafts, findingsOfPage } from '../../src/heart/checks/index.js';
import { notifyEvent } from '../../src/platform/events/index.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { register } from '../../src/features/register/index.js';
import { isUnavailable, Refused } from '../../src/platform/errors.js';
import { problemOf } from '../../src/platform/http/problem.js';
import { PASSWORD, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

async function until(claim: () => Promise<boolean>): Promise<void> {
  for (let n = 0; n < 300; n++) {
    if (await claim()) return;
    await new Promise((later) => setTimeout(later, 50));
  }
  throw new Error('Not within fifteen seconds');
}
const releaseRow = (id: number) =>
  world.database('release').where({ id }).first('published_at', 'failure') as Promise<{
    published_at: number | null;
    failure: string | null;
  }>;

/** A disk that takes nothing while it is full. */
class FullDisk extends BlobStore {
  isFull = false;
  override batch(kind: Parameters<BlobStore['batch']>[0]): ReturnType<BlobStore['batch']> {
    const batch = super.batch(kind);
    const full = () =>
      Promise.reject(Object.assign(new Error('no space left on device'), { code: 'ENOSPC', syscall: 'write' }));
    return { ...batch, add: (hash, bytes) => (this.isFull ? full() : batch.add(hash, bytes)) };
  }
}

describe('the worker', () => {
  const engineOf = (blobs = world.publisher.blobs) =>
    new WorkEngine(world.database, world.url, publishingWork({ ...world.publisher, blobs }));
  const isOut = async (id: number) => (await releaseRow(id)).published_at !== null;
  const now = () => void (world.now = instant(Date.now()));

  it('undoes a release that can’t be rendered, says so, and goes on with the others; an undo is not undone by itself', async () => {
    const page = await world.page('/fails');
    now();
    const { id: good } = await world.press([world.put(page, 'now')]);
    await world.publish();
    await world.rewrite(page, 'Words that can’t be rendered');
    now();
    const { id: bad } = await world.press([world.put(page, 'now')]);
    const break_ = (broken: boolean) =>
      world.database.raw(
        `UPDATE revision SET document = jsonb_set(document, '{blocks,0,fields,text}', ${broken ? `'5'` : `'"Mended"'`}) WHERE id = (SELECT max(id) FROM revision WHERE page_id = ?)`,
        [page],
      );
    await break_(true);
    const other = await world.page('/goes-on');
    now();
    const { id: next } = await world.press([world.put(other, 'now')]);
    const engine = engineOf();
    await engine.start();
    await until(async () => (await releaseRow(bad)).failure !== null && isOut(next));
    expect(await isOut(good)).toBe(true);
    await until(
      async () => (await world.database('release').where({ undoes_id: bad }).whereNotNull('published_at')).length === 1,
    );
    const periods = (await world
      .database('period')
      .where({ page_id: page })
      .orderBy('from_at')
      .select('revision_id', 'until_at')) as { revision_id: number; until_at: number | null }[];
    expect(new Set([periods[0]?.revision_id, periods.at(-1)?.revision_id]).size).toBe(1);
    expect(periods.at(-1)?.until_at).toBeNull();
    // Whoever undoes that gets the broken revision back: it fails, and nothing is undone for it.
    const [undone] = (await world.database('release').where({ undoes_id: bad }).select('id')) as { id: ReleaseId }[];
    now();
    const { id: again } = await undo(world.context(), world.one, undone?.id as ReleaseId, 'undo-the-undo', false);
    await until(async () => (await releaseRow(again)).failure !== null);
    await engine.stop();
    expect(await world.database('release').where({ undoes_id: again })).toEqual([]);
    await break_(false);
    await world.database('release').whereIn('id', [again, bad]).update({ failure: null, published_at: new Date() });
    await publishPlans(world.publisher, world.one, [page]);
  });
  it('waits while the disk is full, says so at once, and goes on by itself; nothing is undone, and no half is left', async () => {
    const blobs = new FullDisk(world.folder);
    const page = await world.page('/waits');
    now();
    await world.press([world.put(page, 'now')]);
    await world.publish();
    const engine = engineOf(blobs);
    await engine.start();
    await world.rewrite(page, 'Words for a disk that is full');
    blobs.isFull = true;
    now();
    const { id } = await world.press([world.put(page, 'now')]);
    const troubles = () =>
      world.database('trouble').where({ place: 'worker' }).select('words') as Promise<{ words: string }[]>;
    await until(async () => (await troubles()).length === 1);
    expect((await troubles())[0]?.words).toMatch(/can’t be published.*no space left/);
    await new Promise((later) => setTimeout(later, 2_000));
    expect(await releaseRow(id)).toMatchObject({ published_at: null, failure: null });
    expect(await world.database('release').where({ undoes_id: id })).toEqual([]);
    blobs.isFull = false;
    await until(() => isOut(id));
    await until(async () => (await troubles()).length === 0);
    await engine.stop();
    const halves = readdirSync(join(world.folder, 'blobs'), { recursive: true }).filter((name) =>
      String(name).endsWith('.tmp'),
    );
    expect(halves).toEqual([]);
  });
  it('does what was left while there was none, in one go', async () => {
    const ids: number[] = [];
    for (let n = 0; n < 5; n++) {
      world.now = later(world.now, MINUTE);
      ids.push((await world.press([world.put(await world.page(`/left-${n}`), 'now')])).id);
    }
    const engine = engineOf();
    await engine.start();
    await until(async () => (await Promise.all(ids.map(isOut))).every(Boolean));
    expect(engine.isListening).toBe(true);
    await engine.stop();
  });
  it('does one thing once where there are two, takes over what a killed one held, and tries what fails later and later', async () => {
    const todo = new Set(Array.from({ length: 12 }, (_, n) => `thing ${n}`));
    const done: string[] = [];
    const failures: number[] = [];
    const work = (name: string): Work => ({
      name: 'things',
      every: 100,
      pauses: [50, 400],
      pending: () => Promise.resolve([...todo]),
      run: async (key) => {
        await new Promise((later) => setTimeout(later, 30));
        if (key === 'thing 3' && failures.push(Date.now()) < 4) throw new Error('not yet');
        // Asked for while another did it: whoever does it looks once more.
        if (!todo.delete(key)) return;
        done.push(`${name}: ${key}`);
      },
    });
    const two = ['a', 'b'].map((name) => new WorkEngine(world.database, world.url, [work(name)]));
    await two[0]?.start();
    // As a worker leaves it that was frozen in the midst of something for longer than its claim lasts.
    await world.database.raw(
      "INSERT INTO pgboss.job (name, data, singleton_key, state, started_on, policy) VALUES ('things', '{\"key\": \"thing 5\"}', 'thing 5', 'active', now() - interval '20 seconds', 'stately') ON CONFLICT DO NOTHING",
    );
    await two[1]?.start();
    await until(() => Promise.resolve(!todo.size));
    for (const engine of two) await engine.stop();
    expect(done).toHaveLength(12);
    expect(new Set(done.map((one) => one.slice(0, 1))).size).toBe(2);
    const pauses = failures.slice(1).map((at, n) => at - (failures[n] ?? 0));
    expect(pauses[2]).toBeGreaterThan((pauses[0] ?? 0) * 1.5);
  });
});

describe('what happens is heard by those who look at the portfolio, and by them alone', () => {
  it('as server-sent events', async () => {
    const hub = new EventHub(world.url);
    await hub.connect();
    const app = buildApp({
      checkAnswer,
      database: world.database,
      blobs: world.publisher.blobs,
      hub,
      style: world.publisher.style,
    });
    const server = app.listen(0, '127.0.0.1');
    await new Promise((ready) => server.once('listening', ready));
    const { port } = server.address() as AddressInfo;
    const cookieOf = async (who: string) =>
      (
        (
          await request(app)
            .post('/api/session')
            .send({ email: `${who}@one.example`, password: PASSWORD })
        ).headers['set-cookie'] as unknown as string[]
      )[0]?.split(';')[0] ?? '';
    const listen = async (who: string, portfolio: number) => {
      const heard: string[] = [];
      const cookie = await cookieOf(who);
      const response = await new Promise<IncomingMessage>((done) =>
        get(
          { host: '127.0.0.1', port, path: `/api/portfolios/${portfolio}/events`, headers: { Cookie: cookie } },
          done,
        ),
      );
      response.setEncoding('utf8').on('data', (text: string) => heard.push(...(text.match(/^event: .*/gm) ?? [])));
      return { heard, status: response.statusCode, end: () => response.destroy() };
    };
    const [ours, theirs, refused] = [
      await listen('reader', 1),
      await listen('stranger', 2),
      await listen('stranger', 1),
    ];
    expect([ours.status, theirs.status, refused.status]).toEqual([200, 200, 404]);
    const page = await world.page('/heard');
    await world.rewrite(page, 'New words');
    world.now = later(world.now, MINUTE);
    await world.press([world.put(page, 'now')]);
    await until(() => Promise.resolve(ours.heard.includes('event: released')));
    expect(ours.heard).toEqual(['event: page', 'event: draft', 'event: released']);
    // Of more pages than a notice holds, it is said that something changed.
    const pageIds = Array.from({ length: 3000 }, (_, n) => 1_000_000 + n);
    await notifyEvent(world.database, { portfolioId: 1, kind: 'prepared', pageIds });
    await until(() => Promise.resolve(ours.heard.includes('event: prepared')));
    // Who has a page open is passed on; of a page elsewhere it can't be said.
    const presence = async (who: string, id: number) => {
      const session = await request(app)
        .post('/api/session')
        .send({ email: `${who}@one.example`, password: PASSWORD });
      return request(app)
        .post(`/api/portfolios/1/pages/${id}/presence`)
        .set('Cookie', (session.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '')
        .set('X-Csrf-Token', (session.body as { csrf: string }).csrf)
        .send({ window: 'w1', isEditing: false, isLeaving: false });
    };
    expect([(await presence('reader', page)).status, (await presence('reader', 999_999)).status]).toEqual([200, 404]);
    expect((await presence('stranger', page)).status).toBe(404);
    await until(() => Promise.resolve(ours.heard.includes('event: presence')));
    expect(theirs.heard).toEqual([]);
    for (const one of [ours, theirs, refused]) one.end();
    await hub.close();
    server.closeAllConnections();
    await new Promise((done) => server.close(done));
  });
});

describe('errors', () => {
  it('become problems: refusals as they are, a lost database as 503, and nothing of the inside otherwise', () => {
    const refused = problemOf(new Refused('conflict', 'Detail', { fields: [], retryAfter: 3 }));
    expect(refused).toEqual({
      type: 'urn:domatium:problem:conflict',
      status: 409,
      title: 'This can’t be done right now',
      detail: 'Detail',
      fields: [],
    });
    expect(codeOf(refused)).toBe('conflict');
    expect(problemOf(Object.assign(new Error('connect'), { code: 'ECONNREFUSED' })).status).toBe(503);
    expect(problemOf(new AggregateError([Object.assign(new Error('x'), { code: 'ECONNREFUSED' })], 'y')).status).toBe(
      503,
    );
    expect(problemOf(new Error('secret words'))).toMatchObject({
      status: 500,
      detail: expect.not.stringContaining('secret') as unknown,
    });
    expect(isUnavailable(Object.assign(new Error('duplicate'), { code: '23505' }))).toBe(false);
  });
});

it('a connection that is lost under a transaction is trouble and no verdict, whichever way it is said', async () => {
  const database = openDatabase(world.url, { max: 1 });
  const said: unknown[] = [];
  const note = (error: unknown) => void said.push(error);
  await database
    .transaction(async (trx) => {
      const { rows } = (await trx.raw('SELECT pg_backend_pid() AS pid')) as { rows: [{ pid: number }] };
      const asked = trx.raw('SELECT pg_sleep(5)').catch(note);
      await world.database.raw('SELECT pg_terminate_backend(?)', [rows[0].pid]);
      await asked;
      await trx.raw('SELECT 1').catch(note);
      await trx.raw('ROLLBACK').catch(note);
      throw new Error('as whatever was being done');
    })
    .catch(note);
  await database.destroy();
  expect(said.length).toBe(4);
  expect(said.filter((error) => !isTrouble(error)).map(String)).toEqual([]);
});

describe('what checks find', () => {
  const found = async (pageId: number) => {
    const write = (at: Instant) => writeInstant(at, 'UTC', world.now);
    const all = await findingsOfPage(world.database, world.one, pageId as never, write, world.now);
    return all.map(({ source, severity, message }) => `${source} ${severity}: ${message}`);
  };
  const out = async (change: Parameters<World['press']>[0]) => {
    world.now = later(world.now, 60 * MINUTE);
    const { id } = await world.press(change);
    const publisher = { ...world.publisher, clock: () => later(world.now, MINUTE) };
    await publishReleases(publisher, world.one, [id as never]);
  };
  it('is kept of a draft once it changed, and once only', async () => {
    const id = await world.page('/checked');
    await checkDrafts(world.database);
    expect(await found(id)).toEqual([]);
    await world.rewrite(id, 'A heading that goes on and on '.repeat(4));
    expect(await found(id)).toEqual([]);
    expect(await checkDrafts(world.database)).toBe(1);
    expect(await found(id)).toEqual([expect.stringMatching(/^draft worth-fixing: Title is \d+ characters/)]);
    const { columns } = await register(world.context(), world.one, [id]);
    expect(columns.findings).toEqual([[0, 0, 1]]);
    await world.rewrite(id, 'Short');
    await world
      .database('draft')
      .where({ page_id: id })
      .update({ document: '{"metadata":{"title":"","description":"x"},"blocks":[]}' });
    await checkDrafts(world.database);
    expect(await found(id)).toEqual([
      'draft blocks: The page has no title.',
      'draft blocks: The page has no first heading.',
    ]);
    expect(await checkDrafts(world.database)).toBe(0);
  });
  it('follows the pages a live page links to, also when only those change', async () => {
    const target = await world.page('/target');
    const id = await world.page('/links-there', { links: [target] });
    await out([world.put(target, 'now'), world.put(id, 'now')]);
    expect(await found(id)).toEqual([]);
    const off = { act: 'take-off' as const, from: 'now' as const, until: null };
    await out([{ ...off, pageId: target, afterwards: { kind: 'gone' } }]);
    expect(await found(id)).toEqual(['plan worth-fixing: The link to Page /target is broken: that page is off.']);
    await out([world.put(target, 'now')]);
    expect(await found(id)).toEqual([]);
  });
});
