import { get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { instant, later, MINUTE } from '@domatium/core/time';
import { BlobStore } from '@domatium/storage';
import request from 'supertest';
import { buildApp, EventHub, PublishWorker } from '../../src/index.js';
import { checkDrafts, findingsOfPage } from '../../src/checks/index.js';
import { notifyEvent } from '../../src/events/index.js';
import { publishReleases } from '../../src/publishing/index.js';
import { register } from '../../src/register/index.js';
import { problemOf, ProblemError, isUnavailable } from '../../src/http/problem.js';
import { PASSWORD, World } from './harness.js';

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

/** A disk that fails for a page that says so. */
class BrokenDisk extends BlobStore {
  isBroken = false;
  override batch(kind: Parameters<BlobStore['batch']>[0]): ReturnType<BlobStore['batch']> {
    const batch = super.batch(kind);
    const full = () => Promise.reject(new Error('ENOSPC: no space left on device'));
    return { ...batch, add: (hash, bytes) => (this.isBroken ? full() : batch.add(hash, bytes)) };
  }
}

describe('the worker', () => {
  it('undoes a release that finally can’t be published, says so, and goes on with the others', async () => {
    const blobs = new BrokenDisk(world.folder);
    const worker = new PublishWorker({ ...world.publisher, blobs }, world.boss, world.url);
    await worker.start();
    const page = await world.page('/fails');
    const { id: good } = await world.press([world.put(page, 'now')]);
    await until(async () => (await releaseRow(good)).published_at !== null);
    world.now = later(instant(Date.now()), 0);
    await world.rewrite(page, 'Words that never reach the disk');
    blobs.isBroken = true;
    const { id: bad } = await world.press([world.put(page, 'now')]);
    await until(async () => (await releaseRow(bad)).failure !== null);
    blobs.isBroken = false;
    expect((await releaseRow(bad)).failure).toContain('no space left');
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
    const other = await world.page('/goes-on');
    world.now = instant(Date.now());
    const { id: next } = await world.press([world.put(other, 'now')]);
    await until(async () => (await releaseRow(next)).published_at !== null);
    await worker.stop();
  });
  it('does what was left while there was none, in one go', async () => {
    const ids = [];
    for (let n = 0; n < 5; n++) {
      world.now = later(world.now, MINUTE);
      ids.push((await world.press([world.put(await world.page(`/left-${n}`), 'now')])).id);
    }
    const worker = new PublishWorker(world.publisher, world.boss, world.url);
    await worker.start();
    for (const id of ids) expect((await releaseRow(id)).published_at).not.toBeNull();
    expect(worker.isHealthy).toBe(true);
    await worker.stop();
  });
});

describe('what happens is heard by those who look at the portfolio, and by them alone', () => {
  it('as server-sent events', async () => {
    const hub = new EventHub(world.url);
    await hub.connect();
    const app = buildApp({ database: world.database, blobs: world.publisher.blobs, hub, style: world.publisher.style });
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
    expect(problemOf(new ProblemError(409, 'Title', 'Detail'))).toEqual({
      type: 'about:blank',
      status: 409,
      title: 'Title',
      detail: 'Detail',
    });
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

describe('what checks find', () => {
  const found = async (pageId: number) =>
    (await findingsOfPage(world.database, world.one, pageId as never)).map(
      ({ source, severity, message }) => `${source} ${severity}: ${message}`,
    );
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
    expect(await found(id)).toEqual(['plan worth-fixing: The link to Page /target leads nowhere: that page is off.']);
    await out([world.put(target, 'now')]);
    expect(await found(id)).toEqual([]);
  });
});
