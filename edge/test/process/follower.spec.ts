import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, get } from 'node:http';
import { connect } from 'node:net';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import { resolve } from '@domatium/core/routing';
import { instant, later, MINUTE, type Instant } from '@domatium/core/time';
import type { PageId } from '@domatium/core/plan';
import { BlobStore, MOST_NOT_FOUND, readSettings, sha256, Spool } from '@domatium/storage';
import { World } from '../../../server/test/process/harness.js';
import { PORTS } from '../../../server/test/process/ports.js';
import { healLacks, markOut, publishReleases } from '../../../server/src/heart/publishing/index.js';
import pg from 'pg';
import { identityOf } from '../../src/identity.js';
import { Artifacts, EdgeClock, Follower, startEdge, Visits } from '../../src/index.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
const opened: Follower[] = [];
afterEach(async () => {
  for (const one of opened.splice(0)) await one.stop();
});
afterAll(() => world.close());

function follower(name: string, options: { url?: string; blobs?: string; time?: EdgeClock } = {}): Follower {
  const folder = join(world.folder, 'edge', name);
  mkdirSync(folder, { recursive: true });
  const spool = new Spool(join(folder, 'spool'), name);
  const one = new Follower({
    url: options.url ?? world.url,
    edgeId: name,
    folder,
    style: { scheme: 'http', suffix: '', port: null },
    artifacts: new Artifacts(new BlobStore(options.blobs ?? world.folder)),
    visits: new Visits(spool),
    clock: options.time?.now ?? (() => instant(Date.now())),
    ...(options.time ? { followClock: options.time.follow.bind(options.time) } : {}),
  });
  opened.push(one);
  return one;
}
async function until(claim: () => boolean | Promise<boolean>): Promise<void> {
  for (let n = 0; n < 600; n++) {
    if (await claim()) return;
    await new Promise((later) => setTimeout(later, 50));
  }
  throw new Error('Not within thirty seconds');
}
async function release(path: string): Promise<number> {
  world.now = later(world.now, MINUTE);
  const page = await world.page(path);
  const { id } = await world.press([world.put(page, 'now')]);
  await publishReleases(world.publisher, world.one, [id as never]);
  return id;
}
const kindAt = (one: Follower, path: string) =>
  resolve(one.table, { host: 'one.example', path }, later(world.now, MINUTE)).kind;
/** As the worker says it. */
const isOut = async (id: number) => {
  await markOut(world.database);
  return (
    ((await world.database('release').where({ id }).first('out_at')) as { out_at: Instant | null }).out_at !== null
  );
};

describe('an edge', () => {
  it('takes a release when it is told, says so, and finds it again in its snapshot without a database', async () => {
    const one = follower('edge-a');
    await one.start();
    const id = await release('/first');
    await until(() => kindAt(one, '/first') === 'page');
    await until(() => isOut(id));
    await one.stop();
    const alone = follower('edge-a', { url: 'postgres://nobody@127.0.0.1:1/none' });
    await alone.start();
    expect([alone.isLoaded, kindAt(alone, '/first')]).toEqual([true, 'page']);
    await alone.stop();
    const blank = follower('edge-blank', { url: 'postgres://nobody@127.0.0.1:1/none' });
    await blank.start();
    expect(blank.isLoaded).toBe(false);
    await blank.stop();
  });
  it('takes another frame without reading a page, at once and as planned, and finds it in its snapshot', async () => {
    const one = follower('edge-frames');
    await one.start();
    const page = await world.page('/framed');
    const { id } = await world.press([world.put(page, 'now')]);
    await publishReleases(world.publisher, world.one, [id as never]);
    await until(() => one.frames.at('one.example', '/framed', world.now, 0 as PageId) !== null);
    const headAt = (at: Instant) => one.frames.at('one.example', '/framed', at, 0 as PageId)?.filled().head ?? '';
    const versionsOf = async () =>
      (await world.database('host').where({ name: 'one.example' }).first('version', 'frame_version')) as {
        version: number;
        frame_version: number;
      };
    const [before, versions] = [headAt(world.now), await versionsOf()];
    const rendersNow = async () => (await world.database('render').select('key')) as { key: string }[];
    const renders = await rendersNow();
    world.now = later(world.now, MINUTE);
    const changed = await world.setProfile(1, { theme: 'tide' });
    const planned = await world.setProfile(1, { theme: 'smoke' }, world.now + 10 * MINUTE, world.now + 20 * MINUTE);
    await until(() => headAt(later(world.now, 15 * MINUTE)) !== headAt(world.now));
    expect(new Set([before, headAt(world.now), headAt(later(world.now, 15 * MINUTE))]).size).toBe(3);
    expect(headAt(later(world.now, 25 * MINUTE))).toBe(headAt(world.now));
    await until(() => isOut(changed));
    await until(() => isOut(planned));
    // No page was rendered, and no route is another.
    expect(await rendersNow()).toEqual(renders);
    expect(await versionsOf()).toEqual({ version: versions.version, frame_version: versions.frame_version + 2 });
    const kept = headAt(world.now);
    await one.stop();
    const alone = follower('edge-frames', { url: 'postgres://nobody:x@127.0.0.1:1/none' });
    await alone.start();
    expect(alone.frames.at('one.example', '/framed', world.now, 0 as PageId)?.filled().head).toBe(kept);
  });
  it('answers nobody by a wrong clock of its machine: the database is asked for the time first', async () => {
    const time = new EdgeClock(() => Date.now() + 60 * MINUTE);
    const one = follower('edge-ahead', { time });
    await one.start();
    expect(Math.abs(time.now() - Date.now())).toBeLessThan(MINUTE / 60);
    await one.stop();
    const began = Date.now();
    await follower('edge-alone', { time, url: 'postgres://nobody@127.0.0.1:1/none' }).start();
    expect(Date.now() - began).toBeLessThan(2_500);
  });
  it('does all of its work with a role that may read routes and write counts, and nothing else', async () => {
    const role = `edge_${world.url.split('_').at(-1)}`;
    await world.database.raw(`CREATE ROLE ${role} LOGIN PASSWORD 'edge'`);
    const grants = readFileSync(join(import.meta.dirname, '../../../storage/edge-role.sql'), 'utf8');
    await world.database.raw(grants.replaceAll(':role', role));
    const url = world.url.replace(/\/\/[^@]*@/, `//${role}:edge@`);
    const edge = await startEdge({
      ...readSettings({ DATABASE_URL: world.url, EDGE_DATABASE_URL: url }),
      dataFolder: world.folder,
      edgePort: PORTS.follower.role,
    });
    try {
      const id = await release('/by-role');
      await until(() => kindAt(edge.follower, '/by-role') === 'page');
      await until(() => isOut(id));
      const status = await new Promise((done) =>
        get({ port: PORTS.follower.role, path: '/by-role', headers: { Host: 'one.example.localhost' } }, (response) =>
          response.resume().on('end', () => done(response.statusCode)),
        ),
      );
      // Decided for a minute from now: until then it is not there, and counted as that.
      expect(status).toBe(404);
      await until(async () =>
        (await world.database('visit_day').select('path')).some(({ path }) => path === '/by-role'),
      );
    } finally {
      await edge.stop();
    }
    await world.database('visit_day').delete();
    expect(await world.database('trouble').whereLike('place', `edge-${PORTS.follower.role}%`)).toEqual([]);
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    for (const secret of ['account', 'draft', 'session', 'mail', 'revision'])
      await expect(client.query(`SELECT FROM ${secret}`)).rejects.toThrow('permission denied');
    await expect(client.query('UPDATE release SET out_at = now()')).rejects.toThrow('permission denied');
    await expect(client.query('DELETE FROM route')).rejects.toThrow('permission denied');
    await client.end();
    await world.database.raw(`DROP OWNED BY ${role}`);
    await world.database.raw(`DROP ROLE ${role}`);
  });
  it('keeps who it is, and takes over what an edge of its port left before it had a name of its own', async () => {
    const folder = join(world.folder, 'identities');
    mkdirSync(join(folder, `edge/edge-${PORTS.follower.role}`), { recursive: true });
    mkdirSync(join(folder, 'spool'));
    writeFileSync(join(folder, `edge/edge-${PORTS.follower.role}/manifest.json`), '{}');
    writeFileSync(join(folder, `spool/edge-${PORTS.follower.role}-7.open`), '');
    const identity = await identityOf(folder, PORTS.follower.role);
    expect([await identityOf(folder, PORTS.follower.role), await identityOf(folder, PORTS.follower.other)]).toEqual([
      identity,
      expect.not.stringMatching(identity),
    ]);
    expect([readdirSync(join(folder, 'edge', identity)), readdirSync(join(folder, 'spool'))]).toEqual([
      ['manifest.json'],
      [`edge-${PORTS.follower.role}-7.ready`],
    ]);
  });
  it('takes nothing of a release before every artifact is on its own disk', async () => {
    const blobs = join(world.folder, 'other-disk');
    mkdirSync(blobs, { recursive: true });
    const one = follower('edge-b', { blobs });
    await one.start();
    const id = await release('/second');
    await one.sync();
    await one.sync();
    expect([kindAt(one, '/second'), await isOut(id)]).toEqual(['not-found', false]);
    rmSync(blobs, { recursive: true });
    await one.stop();
  });
  it('is out only where every living edge has it; one that has gone is not waited for', async () => {
    const one = follower('edge-c');
    await one.start();
    await until(() => one.isLoaded);
    await world.database('edge').insert({ id: 'slow', seen_at: new Date() });
    const id = await release('/third');
    await until(() => kindAt(one, '/third') === 'page');
    expect(await isOut(id)).toBe(false);
    await world
      .database('edge')
      .where({ id: 'slow' })
      .update({ seen_at: new Date(Date.now() - 61_000) });
    await one.sync();
    await until(() => isOut(id));
    await one.stop();
  });
  it('is not held up by an edge whose clock was days ahead', async () => {
    const one = follower('edge-f');
    await one.start();
    await until(() => one.isLoaded);
    await world.database('edge').insert({ id: 'ahead', seen_at: new Date(Date.now() + 2 * 86_400_000) });
    const id = await release('/not-held-up');
    await until(() => isOut(id));
    await world.database('edge').where({ id: 'ahead' }).delete();
  });
  it('holds back the one page whose bytes are missing or damaged, says so, and takes it when it is made anew', async () => {
    await release('/whole');
    const damaged = await release('/damaged');
    const [row] = (await world.database('route').where({ path: '/damaged' }).select('artifact', 'page_id')) as {
      artifact: string;
      page_id: PageId;
    }[];
    const { artifact = '', page_id: page } = row ?? {};
    const blob = new BlobStore(world.folder).fileOf('pages', artifact);
    const bytes = readFileSync(blob);
    rmSync(blob);
    const one = follower('edge-g');
    await one.start();
    await until(() => one.isLoaded && kindAt(one, '/whole') === 'page');
    const beside = await release('/released-beside-it');
    await until(() => isOut(beside));
    expect(one.troubles().join()).toContain('A page is missing or damaged on the disk of edge-g');
    await until(async () => ((await world.database('trouble').where({ place: 'edge-g' })) as unknown[]).length === 1);
    expect(await world.database('edge_lack').where({ edge_id: 'edge-g' }).select('artifact')).toEqual([{ artifact }]);
    // Damaged is as good as missing; and the page's next version is held back too, while the one before is shown.
    writeFileSync(blob, bytes.subarray(0, bytes.length - 9));
    await one.sync();
    expect(one.troubles()).toHaveLength(1);
    await healLacks(world.publisher);
    await one.sync();
    await until(() => one.troubles().length === 0);
    expect(readFileSync(blob).equals(bytes)).toBe(true);
    expect([await isOut(damaged), await world.database('trouble').where({ place: 'edge-g' })]).toEqual([true, []]);
    await world.rewrite(page as PageId, 'The next version');
    world.now = later(world.now, MINUTE);
    const { id } = await world.press([world.put(page as PageId, 'now')]);
    const next = new Set(
      (await world.database('route').select('artifact')).map((one: { artifact: string }) => one.artifact),
    );
    await publishReleases(world.publisher, world.one, [id as never]);
    const fresh = (await world.database('route').where({ path: '/damaged' }).select('artifact')) as {
      artifact: string;
    }[];
    for (const { artifact: hash } of fresh.filter(({ artifact: hash }) => !next.has(hash)))
      rmSync(new BlobStore(world.folder).fileOf('pages', hash));
    const blank = follower('edge-h');
    await blank.start();
    await until(() => blank.isLoaded && blank.troubles().length === 1);
    const shown = resolve(blank.table, { host: 'one.example', path: '/damaged' }, later(world.now, MINUTE));
    expect([shown.kind === 'page' && shown.artifact, await isOut(id)]).toEqual([artifact, false]);
    await healLacks(world.publisher);
    await blank.sync();
    await until(() => isOut(id));
  });
  it('throws a snapshot away that is not what was written, whatever it holds', async () => {
    const folder = join(world.folder, 'edge', 'edge-i');
    mkdirSync(folder, { recursive: true });
    const wrong = { form: 2, files: [['1-1.json', 'x']], salts: [] };
    writeFileSync(join(folder, '1-1.json'), '{"hostId":1,"host":"one.example","routes":7}');
    for (const text of [
      '{"files":[],"salts":3}',
      JSON.stringify({ sum: 'x', manifest: wrong }),
      JSON.stringify({ sum: sha256(JSON.stringify(wrong)), manifest: wrong }),
    ]) {
      writeFileSync(join(folder, 'manifest.json'), text);
      const one = follower('edge-i');
      await one.start();
      await until(() => one.isLoaded && one.troubles().length === 0);
      await one.stop();
    }
  });
  it('counts a flood of made-up addresses in little room, and takes a release in the midst of it', async () => {
    const port = PORTS.follower.many;
    const edge = await startEdge({
      ...readSettings({ DATABASE_URL: world.url }),
      dataFolder: world.folder,
      edgePort: port,
    });
    await until(() => edge.follower.isLoaded);
    const size = async () => {
      const [row] = (
        (await world.database.raw("SELECT pg_total_relation_size('visit_day')::int AS n")) as { rows: { n: number }[] }
      ).rows;
      return row?.n ?? 0;
    };
    const before = await size();
    const agent = new Agent({ keepAlive: true, maxSockets: 16 });
    let asked = 0;
    let isReleased = false;
    // It goes on until a release is out.
    const flood = async () => {
      for (let n = 0; n < 500 || !isReleased; n++)
        await new Promise((done) =>
          get(
            { agent, host: '127.0.0.1', port, path: `/made-up-${asked++}`, headers: { Host: 'one.example.localhost' } },
            (response) => response.resume().on('end', done),
          ).on('error', done),
        );
    };
    const flooding = Promise.all(Array.from({ length: 16 }, flood));
    await new Promise((done) => setTimeout(done, 500));
    const id = await release('/during-the-flood');
    await until(() => isOut(id));
    isReleased = true;
    await flooding;
    agent.destroy();
    await edge.stop();
    const rows = (await world.database('visit_day').where({ outcome: 'not-found' }).select('path', 'answers')) as {
      path: string;
      answers: number;
    }[];
    expect(rows.reduce((sum, { answers }) => sum + answers, 0)).toBe(asked);
    expect(rows.length).toBeLessThanOrEqual(MOST_NOT_FOUND + 1);
    expect((await size()) - before).toBeLessThan(1_000_000);
  });
  it('starts anew from a snapshot that was cut short, and keeps no old versions', async () => {
    const one = follower('edge-d');
    await one.start();
    await until(() => one.isLoaded);
    await release('/fourth');
    await until(() => kindAt(one, '/fourth') === 'page');
    await one.stop();
    const folder = join(world.folder, 'edge', 'edge-d');
    const files = readdirSync(folder).filter((name) => /^\d+-\d+\.json$/.test(name));
    expect(new Set(files.map((name) => name.split('-')[0])).size).toBe(files.length);
    writeFileSync(join(folder, files[0] as string), '{"hostId":1,"rou');
    const again = follower('edge-d');
    await again.start();
    await until(() => again.isLoaded && kindAt(again, '/fourth') === 'page');
    await again.stop();
  });
  it('has a salt for today and the day ahead, and destroys those of days that are over', async () => {
    await world.database('visit_salt').insert({ day: '2020-01-01', salt: 'old' }).onConflict().ignore();
    await world.database('visitor_seen').insert({ day: '2020-01-01', page_id: 1, visitor: 'x' });
    const one = follower('edge-e');
    await one.start();
    await until(
      async () => ((await world.database('visitor_seen').where({ day: '2020-01-01' })) as unknown[]).length === 0,
    );
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
    await until(
      async () => ((await world.database('visit_salt').where('day', '>=', tomorrow)) as unknown[]).length > 0,
    );
    await one.stop();
    expect(await world.database('visit_salt').where({ day: '2020-01-01' })).toEqual([]);
    expect(await world.database('visitor_seen').where({ day: '2020-01-01' })).toEqual([]);
  });
});

describe('a client that is too slow', () => {
  it('is let go, while others are answered', async () => {
    const port = PORTS.follower.killed;
    const edge = await startEdge(
      {
        ...readSettings({ DATABASE_URL: world.url }),
        dataFolder: world.folder,
        edgePort: port,
      },
      { head: 1_000, request: 1_500, idle: 2_500 },
    );
    const began = Date.now();
    const slow = connect(port, '127.0.0.1', () =>
      slow.write('GET / HTTP/1.1\r\nHost: one.example.localhost\r\nX-Slow: '),
    );
    const idle = connect(port, '127.0.0.1', () => idle.write('GET /healthz HTTP/1.1\r\nHost: a.localhost\r\n\r\n'));
    let answered = 0;
    const left = new Promise<number>((done) =>
      idle.once('data', () => (answered = Date.now())).once('close', () => done(Date.now() - answered)),
    );
    const drip = setInterval(() => slow.write('x'), 500);
    const closed = new Promise<string>((done) => {
      let text = '';
      slow.on('data', (part) => (text += part.toString())).on('close', () => done(text));
    });
    slow.on('error', () => undefined);
    await until(async () => (await fetch(`http://127.0.0.1:${port}/healthz`)).status === 200);
    expect(await closed).toContain('408 Request Timeout');
    expect(Date.now() - began).toBeLessThan(15_000);
    clearInterval(drip);
    // One that asks nothing more is let go too, though later.
    const idleFor = await left;
    expect([answered > 0, idleFor > 2_000, idleFor < 12_000]).toEqual([true, true, true]);
    await edge.stop();
  });
});
