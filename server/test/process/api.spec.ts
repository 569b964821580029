import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { allEndpoints, mayAct, type Act, type Endpoint, type Problem } from '@domatium/contracts';
import { documentFromJSON } from '@domatium/core/document';
import { instant } from '@domatium/core/time';
import type { Express } from 'express';
import type { Server } from 'node:http';
import request from 'supertest';
import { buildApp, EventHub } from '../../src/index.js';
import { documentOf, PASSWORD, ROLES, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
let app: Express;
/** One that listens all along: supertest would open another for each request. */
let server: Server;
let hub: EventHub;
let own = 0;
let foreign = 0;
const sessions = new Map<string, { cookie: string; csrf: string }>();

beforeAll(async () => {
  world = await World.open();
  hub = new EventHub(world.url);
  await hub.connect();
  app = buildApp({
    checkAnswer,
    database: world.database,
    blobs: world.publisher.blobs,
    hub,
    style: world.publisher.style,
    limitFactor: 1000,
  });
  server = app.listen(0, '127.0.0.1');
  world.now = instant(Date.now());
  own = await world.page('/own');
  foreign = await world.page('/theirs', { portfolio: world.two, site: 3 });
  for (const who of [...ROLES, 'stranger']) {
    const response = await request(server)
      .post('/api/session')
      .send({ email: `${who}@one.example`, password: PASSWORD });
    sessions.set(who, {
      cookie: (response.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '',
      csrf: (response.body as { csrf: string }).csrf,
    });
  }
});
afterAll(async () => {
  await new Promise((done) => server.close(done));
  await hub.close();
  await world.close();
});

/** Calls an endpoint as somebody; `ids` fill the path. */
function call(
  endpoint: Endpoint,
  who: string | null,
  ids: Record<string, unknown>,
  body: unknown = {},
  query: object = {},
) {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    String((ids[name] as string | undefined) ?? (name.endsWith('Id') ? '1' : 'a'.repeat(64) + '.webp')),
  );
  const asked = request(server)[endpoint.method.toLowerCase() as 'post'](path).query(query);
  const session = who ? sessions.get(who) : undefined;
  if (session) void asked.set('Cookie', session.cookie).set('X-Csrf-Token', session.csrf);
  return endpoint.method === 'GET' ? asked : asked.send(body as object);
}
interface Answer {
  readonly status: number;
  readonly body: unknown;
  readonly headers: Record<string, string>;
}
const every = Object.entries(allEndpoints).filter(([, { answers }]) => answers !== 'events');
const inPortfolio = every.filter(([, { path }]) => path.includes(':portfolioId'));
const ids = () => ({ portfolioId: 1, pageId: own, releaseId: 1 });

describe('every endpoint of the contracts', () => {
  it.each(every.filter(([, { who }]) => who !== 'anyone'))('%s asks for a session', async (_, endpoint) => {
    const { status, body, headers } = (await call(endpoint, null, ids())) as unknown as Answer;
    expect(status).toBe(401);
    expect(headers['content-type']).toContain('application/problem+json');
    expect((body as Problem).detail).toContain('signed in');
  });
  it.each(inPortfolio)('%s lets each role do what the table says', async (_, endpoint) => {
    for (const role of ROLES) {
      const { status } = await call(endpoint, role, ids());
      expect(status === 403).toBe(!mayAct(role, endpoint.who as Act));
      expect(status).toBeLessThan(500);
    }
  });
  it.each(inPortfolio)('%s knows nothing of another portfolio, nor of its ids', async (_, endpoint) => {
    expect((await call(endpoint, 'stranger', ids())).status).toBe(404);
    expect((await call(endpoint, 'owner', { ...ids(), portfolioId: 2, pageId: foreign })).status).toBe(404);
    if (endpoint.path.includes(':pageId'))
      expect([404, 422]).toContain(
        (
          await call(
            endpoint,
            'owner',
            { ...ids(), pageId: foreign },
            { name: 'x', version: 1, document: documentOf('x') },
          )
        ).status,
      );
  });
  it.each(every)('%s never answers bad input with a 500', async (_, endpoint) => {
    const bad: object[] = [
      {},
      [],
      { a: 1 },
      { changes: 'x' },
      { changes: [null] },
      { changes: [{ act: 'release', pageId: 'x' }] },
      { changes: [{ act: 'move', pageId: -1, at: 7 }], idempotencyKey: 'aaaaaaaa' },
      { version: 'a', document: 5 },
      { version: 1, document: { metadata: [], blocks: [[]] } },
      { email: { x: 1 }, password: ['y'] },
      { name: '\u0000', siteId: 1e99, start: 'x', path: '/%' },
    ];
    // Every field its schema names, with what it does not name.
    const fields = Object.keys((endpoint.body as { fields?: object } | null)?.fields ?? {});
    const odd: unknown[] = [
      null,
      -1,
      1e308,
      '',
      '\u0000',
      'x'.repeat(70_000),
      [],
      [[[]]],
      {},
      { toString: 1 },
      true,
      '2026-13-45',
    ];
    for (const field of fields)
      for (const value of odd) bad.push(Object.fromEntries(fields.map((one) => [one, one === field ? value : 'x'])));
    for (const body of bad) {
      const { status, body: answer } = (await call(endpoint, 'owner', ids(), body, {
        siteId: 'x',
        path: ['a', 'b'],
      })) as unknown as Answer;
      expect(status).toBeLessThan(500);
      if (status >= 400) expect((answer as Problem).detail).toBeTruthy();
    }
    for (const id of ['0', '-1', 'x', '9'.repeat(30), '1e3', '%00'])
      expect((await call(endpoint, 'owner', { portfolioId: id, pageId: id, releaseId: id })).status).toBeLessThan(500);
    // Signing out in between is one of the endpoints.
    if (endpoint.path === '/api/session' && endpoint.method === 'DELETE') {
      const again = await request(server).post('/api/session').send({ email: 'owner@one.example', password: PASSWORD });
      sessions.set('owner', {
        cookie: (again.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '',
        csrf: (again.body as { csrf: string }).csrf,
      });
    }
  });
});

describe('input at the door', () => {
  const post = (path: string) =>
    request(server)
      .post(path)
      .set('Cookie', sessions.get('owner')?.cookie ?? '')
      .set('X-Csrf-Token', sessions.get('owner')?.csrf ?? '');
  it('must be JSON, not too large, not too deep', async () => {
    const to = '/api/portfolios/1/pages';
    expect((await post(to).set('Content-Type', 'application/json').send('{"a":')).status).toBe(400);
    expect((await post(to).set('Content-Type', 'text/plain').send('x')).status).toBe(415);
    const large = await post(to).send({ name: 'x'.repeat(2_100_000) });
    expect([large.status, (large.body as { detail: string }).detail]).toEqual([413, expect.stringContaining('2 MB')]);
    // The draft of a page takes a pasted document of that size.
    const draft = (size: number) =>
      request(server)
        .put('/api/portfolios/1/pages/1/draft')
        .set('Cookie', sessions.get('owner')?.cookie ?? '')
        .set('X-Csrf-Token', sessions.get('owner')?.csrf ?? '')
        .send({ version: 1, document: 'x'.repeat(size) });
    expect((await draft(6_000_000)).status).toBe(422);
    expect((await draft(17_000_000)).status).toBe(413);
    expect(
      (
        await post(to)
          .set('Content-Type', 'application/json')
          .send('{"a":'.repeat(80) + '1' + '}'.repeat(80))
      ).status,
    ).toBe(422);
    expect((await request(server).get('/api/nothing')).status).toBe(404);
  });
  it('must come from here: session token and origin are asked for', async () => {
    const { cookie, csrf } = sessions.get('owner') as { cookie: string; csrf: string };
    const ask = () => request(server).post('/api/portfolios/1/releases').set('Cookie', cookie).send({});
    expect((await ask()).status).toBe(403);
    expect((await ask().set('X-Csrf-Token', 'wrong')).status).toBe(403);
    expect((await ask().set('X-Csrf-Token', csrf).set('Origin', 'http://evil.example')).status).toBe(403);
    expect((await ask().set('X-Csrf-Token', csrf)).status).toBe(422);
  });
  it('may hold any text, and gives it back unharmed', async () => {
    const texts = [
      '<script>alert(1)</script>',
      '\u202eright to left\u202c',
      '😀'.repeat(40),
      'Зимний паром',
      '"quotes" & <b>',
    ];
    for (const [index, name] of texts.entries()) {
      const made = await post('/api/portfolios/1/pages').send({
        siteId: 1,
        start: 'blank',
        name,
        path: `/text-${index}`,
      });
      expect(made.status).toBe(200);
      const sheet = await request(server)
        .get(`/api/portfolios/1/pages/${(made.body as { id: number }).id}`)
        .set('Cookie', sessions.get('owner')?.cookie ?? '');
      expect((sheet.body as { name: string }).name).toBe(name);
    }
    const long = await post('/api/portfolios/1/pages').send({
      siteId: 1,
      start: 'blank',
      name: 'x'.repeat(100_000),
      path: '/long',
    });
    expect([long.status, (long.body as Problem).fields]).toEqual([
      422,
      [{ path: 'name', message: 'At most 200 characters.' }],
    ]);
    for (const path of ['/...%2f', '/--', `/${'s'.repeat(300)}`, '/-/x', '/healthz', '/a%2fb'])
      expect(
        ((await post('/api/portfolios/1/pages').send({ siteId: 1, start: 'blank', name: 'n', path })).body as Problem)
          .fields?.[0]?.path,
      ).toBe('path');
  });
  it('keeps a draft of 300 blocks and 100 KB of text; refuses a stale one with both states', async () => {
    const big = {
      ...documentOf('Big'),
      blocks: Array.from({ length: 300 }, (_, n) => ({
        id: `block${n}`,
        type: 'quote',
        fields: { text: `${n}`.repeat(100), who: '', role: '' },
      })),
    };
    const put = (version: number, document: object) =>
      request(server)
        .put(`/api/portfolios/1/pages/${own}/draft`)
        .set('Cookie', sessions.get('author')?.cookie ?? '')
        .set('X-Csrf-Token', sessions.get('author')?.csrf ?? '')
        .send({ version, document });
    expect((await put(1, big)).body).toMatchObject({ version: 2 });
    const stale = await put(1, documentOf('Other'));
    expect(stale.status).toBe(412);
    expect(documentFromJSON((stale.body as { current: { document: unknown } }).current.document).ok).toBe(true);
    const foreignLink = await put(2, documentOf('x', [foreign as never]));
    expect([foreignLink.status, (foreignLink.body as Problem).fields?.[0]?.path]).toEqual([
      422,
      'blocks[1].fields.button',
    ]);
    const huge = await put(2, {
      ...documentOf('x'),
      blocks: [
        {
          id: 'text0001',
          type: 'text',
          fields: {
            body: {
              type: 'doc',
              content: [{ type: 'paragraph', content: [{ type: 'text', text: 'x'.repeat(100_001) }] }],
            },
          },
        },
      ],
    });
    expect((huge.body as Problem).fields?.[0]?.message).toContain('at most 100,000');
  });
  it('slows down those who guess passwords, and them alone', async () => {
    const guess = () => request(server).post('/api/session').send({ email: 'second@one.example', password: 'guess' });
    const seen = [];
    for (let n = 0; n < 8; n++) seen.push((await guess()).status);
    expect(seen.slice(0, 5)).toEqual([422, 422, 422, 422, 422]);
    expect(seen.at(-1)).toBe(429);
    await world.database('sign_in_failure').delete();
    expect(
      (await request(server).post('/api/session').send({ email: 'second@one.example', password: PASSWORD })).status,
    ).toBe(200);
  });
  it('says who is there in a cookie that scripts and other hosts can’t read', async () => {
    const response = await request(server)
      .post('/api/session')
      .send({ email: 'reader@one.example', password: PASSWORD });
    expect((response.headers['set-cookie'] as unknown as string[])[0]).toMatch(
      /^domatium=[\w-]{43}; Max-Age=\d+; Path=\/; Expires=[^;]+; HttpOnly; SameSite=Lax$/,
    );
  });
});
