import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { DAY, instant, later } from '@domatium/core/time';
import { migrate, openDatabase } from '@domatium/storage';
import { randomBytes } from 'node:crypto';
import type { Express } from 'express';
import type { Knex } from 'knex';
import pg from 'pg';
import request from 'supertest';
import { buildApp, EventHub } from '../../src/index.js';
import { firstLink } from '../../src/features/people/index.js';
import { PASSWORD, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
let app: Express;
let hub: EventHub;
interface Session {
  readonly cookie: string;
  readonly csrf: string;
}
const sessions = new Map<string, Session>();
beforeAll(async () => {
  world = await World.open();
  hub = new EventHub(world.url);
  world.now = instant(Date.now());
  app = buildApp({
    checkAnswer,
    database: world.database,
    blobs: world.publisher.blobs,
    hub,
    limitFactor: 100,
    origin: 'https://pages.example',
    hasMail: true,
    style: world.publisher.style,
    clock: () => world.now,
  });
});
afterAll(async () => {
  await hub.close();
  await world.close();
});

const cookieOf = (headers: Record<string, unknown>) => (headers['set-cookie'] as string[])[0]?.split(';')[0] ?? '';
async function as(who: string): Promise<Session> {
  const known = sessions.get(who);
  if (known) return known;
  const answer = await request(app)
    .post('/api/session')
    .send({ email: `${who}@one.example`, password: PASSWORD });
  const session = { cookie: cookieOf(answer.headers), csrf: (answer.body as { csrf: string }).csrf };
  sessions.set(who, session);
  return session;
}
async function call(who: string, method: 'get' | 'post' | 'patch', path: string, body: object = {}) {
  const { cookie, csrf } = await as(who);
  const asked = request(app)[method](path).set('Cookie', cookie).set('X-Csrf-Token', csrf);
  return method === 'get' ? asked : asked.send(body);
}
const people = '/api/portfolios/1/people';
const invite = async (role: string, email: string) =>
  (await call('owner', 'post', `${people}/invitations`, { role, email })).body as { id: number; path: string };
const join = (path: string, email: string, password = 'a-password-of-mine') =>
  request(app)
    .post(`/api/invitations/${path.split('/').at(-1)}/join`)
    .send({ name: 'New One', email, password });

it('invites by a link that works once, within its time, unless it is taken back', async () => {
  const { path } = await invite('author', 'new@one.example');
  const shown = await request(app).get(`/api/invitations/${path.split('/').at(-1)}`);
  expect(shown.body).toEqual({ portfolio: 'One', role: 'author', email: 'new@one.example', isKnown: false });
  expect((await join(path, 'new@one.example', 'short')).status).toBe(422);
  // It is to one address: nobody comes in under that of somebody else.
  const squatter = await join(path, 'ceo@one.example');
  expect([squatter.status, (squatter.body as { detail: string }).detail]).toEqual([
    422,
    'This invitation is to new@one.example. Join with that address.',
  ]);
  const joined = await join(path, 'new@one.example');
  expect(joined.body).toMatchObject({ portfolios: [{ name: 'One', role: 'author' }] });
  const again = await join(path, 'new@one.example');
  expect([again.status, (again.body as { detail: string }).detail]).toEqual([
    410,
    'This invitation was already used. Sign in, or ask for a new link.',
  ]);
  const back = await invite('reader', 'late@one.example');
  await call('owner', 'post', `${people}/invitations/${back.id}/revoke`);
  expect((await join(back.path, 'late@one.example')).status).toBe(410);
  const old = await invite('reader', 'late@one.example');
  world.now = later(world.now, 13 * DAY);
  sessions.clear();
  expect((await request(app).get(`/api/invitations/${old.path.split('/').at(-1)}`)).status).toBe(200);
  world.now = later(world.now, 2 * DAY);
  expect((await join(old.path, 'late@one.example')).status).toBe(410);
  sessions.clear();
  const [mail] = (await world.database('mail').where({ recipient: 'new@one.example' }).select('body')) as {
    body: string;
  }[];
  expect(mail?.body).toContain(`https://pages.example${path}`);
});

it('takes an account that exists with its own password only', async () => {
  const { path } = await invite('publisher', 'stranger@one.example');
  expect((await join(path, 'stranger@one.example', 'not-the-password')).status).toBe(422);
  const joined = await join(path, 'stranger@one.example', PASSWORD);
  expect((joined.body as { portfolios: { role: string }[] }).portfolios.map(({ role }) => role).sort()).toEqual([
    'owner',
    'publisher',
  ]);
});

it('ends the sessions of whoever is removed at once, and keeps the last owner', async () => {
  const { body } = (await call('owner', 'get', people)) as { body: { members: { id: number; name: string }[] } };
  const idOf = (name: string) => body.members.find((one) => one.name === name)?.id;
  expect((await call('reader', 'get', '/api/portfolios/1/views')).status).toBe(200);
  expect((await call('author', 'post', `${people}/${idOf('reader')}/remove`)).status).toBe(403);
  await call('owner', 'post', `${people}/${idOf('reader')}/remove`);
  expect((await call('reader', 'get', '/api/portfolios/1/views')).status).toBe(401);
  const last = await call('owner', 'post', `${people}/${idOf('owner')}/remove`);
  expect([last.status, (last.body as { detail: string }).detail]).toEqual([
    409,
    'The last owner stays. Make somebody else an owner first.',
  ]);
  const demoted = await call('owner', 'patch', `${people}/${idOf('owner')}`, { role: 'reader' });
  expect(demoted.status).toBe(409);
  await call('owner', 'patch', `${people}/${idOf('second')}`, { role: 'owner' });
  expect((await call('owner', 'patch', `${people}/${idOf('owner')}`, { role: 'reader' })).status).toBe(200);
  expect(
    (await call('owner', 'post', `${people}/invitations`, { role: 'reader', email: 'x@one.example' })).status,
  ).toBe(403);
});

it('adds sites on hosts of one’s own; a host of another portfolio is taken, without saying whose', async () => {
  const site = { name: 'Shop', host: 'Shop.One.example', basePath: '/', theme: 'ferry' };
  expect((await call('second', 'post', '/api/portfolios/1/sites', site)).status).toBe(200);
  const again = await call('second', 'post', '/api/portfolios/1/sites', { ...site, name: 'Twice' });
  expect((again.body as { fields: { path: string }[] }).fields[0]?.path).toBe('basePath');
  const theirs = await call('second', 'post', '/api/portfolios/1/sites', { ...site, host: 'two.example' });
  expect((theirs.body as { detail: string }).detail).toBe('This host is taken in this installation.');
  const bad = await call('second', 'post', '/api/portfolios/1/sites', { ...site, host: 'no host/at all' });
  expect(bad.status).toBe(422);
  expect(
    (await call('second', 'post', '/api/portfolios/1/sites', { ...site, host: null, basePath: '/shop' })).status,
  ).toBe(200);
});

it('is founded once, by the first person with the link of the log', async () => {
  const name = `test_${randomBytes(5).toString('hex')}`;
  const admin = new pg.Client({ connectionString: world.url.replace(/\/[^/]*$/, '/domatium') });
  await admin.connect();
  await admin.query(`CREATE DATABASE ${name}`);
  await admin.end();
  const database: Knex = openDatabase(world.url.replace(/\/[^/]*$/, `/${name}`));
  await migrate(database);
  const empty = buildApp({ checkAnswer, database, blobs: world.publisher.blobs, hub, style: world.publisher.style });
  const [first, second] = [
    await firstLink(database, instant(Date.now())),
    await firstLink(database, instant(Date.now())),
  ];
  const body = {
    person: { name: 'First', email: 'first@one.example', password: 'a-password-of-mine' },
    portfolio: { name: 'Øya & co', zone: 'Europe/Oslo' },
  };
  const found = (path: string | null, zone = 'Europe/Oslo') =>
    request(empty)
      .post(`/api/invitations/${path?.split('/').at(-1)}/portfolio`)
      .send({ ...body, portfolio: { ...body.portfolio, zone } });
  expect((await found(first)).status).toBe(410);
  expect((await found(second, 'Nowhere/Town')).status).toBe(422);
  const made = await found(second);
  expect(made.status).toBe(200);
  expect((await found(second)).status).toBe(410);
  expect(await firstLink(database, instant(Date.now()))).toBeNull();
  const session = await request(empty).get('/api/session').set('Cookie', cookieOf(made.headers));
  expect(session.body).toMatchObject({ portfolios: [{ name: 'Øya & co', role: 'owner', zone: 'Europe/Oslo' }] });
  await database.destroy();
});
