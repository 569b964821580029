import { get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { instant, later, MINUTE } from '@domatium/core/time';
import type { Express } from 'express';
import { Secret, TOTP } from 'otpauth';
import request from 'supertest';
import { buildApp, EventHub } from '../../src/index.js';
import { PASSWORD, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
let hub: EventHub;
let app: Express;
let server: Server;

beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
  hub = new EventHub(world.url);
  await hub.connect();
  app = buildApp({
    checkAnswer,
    ...{ database: world.database, blobs: world.publisher.blobs, hub, style: world.publisher.style },
    ...{ clock: () => world.now, limitFactor: 1000, hasMail: true, origin: 'https://pages.example' },
  });
  // As behind a proxy that is trusted: the address is what it says.
  app.set('trust proxy', true);
  server = app.listen(0, '127.0.0.1');
  await new Promise((ready) => server.once('listening', ready));
});
afterAll(async () => {
  await hub.close();
  server.closeAllConnections();
  server.close();
  await world.close();
});

interface Session {
  readonly status: number;
  readonly cookie: string;
  readonly csrf: string;
  readonly fields: Record<string, string>;
  readonly retryAfter: string | undefined;
}
const from = (address: string) => ({ 'X-Forwarded-For': address });
async function signIn(who: string, password = PASSWORD, address = '10.0.0.1', code?: string): Promise<Session> {
  const answer = await request(server)
    .post('/api/session')
    .set(from(address))
    .send({ email: `${who}@one.example`, password, ...(code ? { code } : {}) });
  const body = answer.body as { csrf?: string; fields?: { path: string; message: string }[] };
  return {
    status: answer.status,
    cookie: (answer.headers['set-cookie'] as unknown as string[] | undefined)?.[0]?.split(';')[0] ?? '',
    csrf: body.csrf ?? '',
    fields: Object.fromEntries((body.fields ?? []).map(({ path, message }) => [path, message])),
    retryAfter: answer.headers['retry-after'],
  };
}
const as = ({ cookie, csrf }: Session) => ({
  get: (path: string) => request(server).get(path).set('Cookie', cookie),
  send: (method: 'post' | 'put' | 'delete', path: string, body: object = {}) =>
    request(server)[method](path).set('Cookie', cookie).set('X-Csrf-Token', csrf).send(body),
});

describe('signing in', () => {
  it('counts tries before it judges them, also of many at once', async () => {
    const answers = await Promise.all(
      Array.from({ length: 40 }, (_, n) => signIn('reader', `a-guess-number-${n}`, '10.9.0.1')),
    );
    const judged = answers.filter(({ status }) => status === 422).length;
    const refused = answers.filter(({ status }) => status === 429);
    expect([judged, refused.length]).toEqual([5, 35]);
    expect(Number(refused[0]?.retryAfter)).toBeGreaterThan(0);
  });
  it('gives a cookie that https alone carries, to this host alone, and names the request in a refusal', async () => {
    const answer = await request(server)
      .post('/api/session')
      .send({ email: 'publisher@one.example', password: PASSWORD });
    expect(answer.headers['set-cookie']?.[0]).toMatch(
      /^__Host-domatium=[\w-]+; Max-Age=\d+; Path=\/; Expires=.*; HttpOnly; Secure; SameSite=Lax$/,
    );
    const refused = await request(server).get('/api/portfolios/1/pages');
    expect(refused.body).toMatchObject({ instance: expect.stringMatching(/^urn:uuid:[0-9a-f-]{36}$/) as unknown });
  });
  it('does not lock somebody out for the failures of somebody elsewhere', async () => {
    expect((await signIn('owner', PASSWORD, '10.0.0.1')).status).toBe(200);
    // From more addresses than are tried for an account that is guessed at.
    for (let n = 0; n < 70; n++) await signIn('owner', 'wrong-wrong', `10.8.0.${n}`);
    expect((await signIn('owner', PASSWORD, '10.8.1.1')).status).toBe(429);
    expect((await signIn('owner', PASSWORD, '10.0.0.1')).status).toBe(200);
    world.now = later(world.now, 61 * MINUTE);
    expect((await signIn('owner', PASSWORD, '10.8.1.1')).status).toBe(200);
  });
  it('slows down the tries of an invitation, and tells nothing of accounts to who has none', async () => {
    const tries = await Promise.all(
      [
        'owner@one.example',
        'nobody@one.example',
        'x@one.example',
        'y@one.example',
        'z@one.example',
        'w@one.example',
      ].map((email) =>
        request(server)
          .post('/api/invitations/made-up-token-of-nobody/join')
          .set(from('10.7.0.1'))
          .send({ name: 'X', email, password: 'some-password' }),
      ),
    );
    expect(new Set(tries.slice(0, 2).map(({ status }) => status)).size).toBe(1);
    expect(tries.map(({ status }) => status).sort()).toEqual([410, 410, 410, 410, 410, 429]);
  });
  it('is asked for one’s own account: sessions are seen and ended, and a new password ends the others', async () => {
    const [one, two, three] = [await signIn('author'), await signIn('author'), await signIn('author')];
    const { body } = (await as(one).get('/api/account/sessions')) as { body: { id: number; isThis: boolean }[] };
    expect([body.length, body.filter(({ isThis }) => isThis).length]).toEqual([3, 1]);
    const [other] = body.filter(({ isThis }) => !isThis);
    await as(one).send('delete', `/api/account/sessions/${other?.id}`);
    const alive = async () =>
      (await Promise.all([one, two, three].map((session) => as(session).get('/api/session')))).map(
        ({ status }) => status,
      );
    expect((await alive()).sort()).toEqual([200, 200, 401]);
    const change = (current: string) =>
      as(one).send('put', '/api/account/password', { current, next: 'another-password' });
    expect((await change('not-mine-at-all')).status).toBe(422);
    expect((await change(PASSWORD)).status).toBe(200);
    expect(await alive()).toEqual([200, 401, 401]);
    expect((await signIn('author')).status).toBe(422);
    // Forgotten: a link by mail, once, which begins as the setting says whatever the request names.
    const asked = await request(server)
      .post('/api/new-password')
      .set(from('10.6.0.1'))
      .set('Host', 'evil.example')
      .send({ email: 'author@one.example' });
    const unknown = await request(server)
      .post('/api/new-password')
      .set(from('10.6.0.2'))
      .send({ email: 'no@one.example' });
    expect([asked.status, unknown.status, asked.body]).toEqual([200, 200, unknown.body]);
    const mails = (await world.database('mail').where({ subject: 'A new password' })) as {
      recipient: string;
      body: string;
    }[];
    expect(mails.map(({ recipient }) => recipient)).toEqual(['author@one.example']);
    const token = /https:\/\/pages\.example\/new-password\/(\S+)/.exec(mails[0]?.body ?? '')?.[1] ?? '';
    const reset = () => request(server).post(`/api/new-password/${token}`).send({ password: PASSWORD });
    expect([(await reset()).status, (await reset()).status]).toEqual([200, 410]);
    expect(await alive()).toEqual([401, 401, 401]);
    expect((await signIn('author')).status).toBe(200);
  });
  it('asks for a second factor where there is one; a portfolio can want it of everybody', async () => {
    const first = await signIn('second');
    const begun = (await as(first).send('post', '/api/account/factor', { password: PASSWORD })).body as {
      secret: string;
    };
    const totp = new TOTP({ secret: Secret.fromBase32(begun.secret), digits: 6, period: 30 });
    const code = (at: number = world.now) => totp.generate({ timestamp: at });
    expect((await as(first).send('put', '/api/account/factor', { code: '000000' })).status).toBe(422);
    const { recoveryCodes } = (await as(first).send('put', '/api/account/factor', { code: code() })).body as {
      recoveryCodes: string[];
    };
    expect(recoveryCodes).toHaveLength(10);
    expect((await signIn('second')).fields).toEqual({ code: 'Write the code of your authenticator.' });
    // The code that put it in force was used.
    expect((await signIn('second', PASSWORD, '10.0.0.1', code())).status).toBe(422);
    world.now = later(world.now, MINUTE);
    const [right, again] = [
      await signIn('second', PASSWORD, '10.0.0.1', code()),
      await signIn('second', PASSWORD, '10.0.0.1', code()),
    ];
    expect([right.status, again.status]).toEqual([200, 422]);
    const recovery = recoveryCodes[3] ?? '';
    expect((await signIn('second', PASSWORD, '10.0.0.1', recovery)).status).toBe(200);
    expect((await signIn('second', PASSWORD, '10.0.0.1', recovery)).status).toBe(422);

    const owner = await signIn('owner');
    const want = (isWanted: boolean, session = owner) =>
      as(session).send('put', '/api/portfolios/1/people/factor', { isWanted });
    // Whoever has none would lock themselves out.
    expect((await want(true)).status).toBe(409);
    const [second] = (await world.database('account').where({ email: 'second@one.example' }).select('id')) as {
      id: number;
    }[];
    await world.database('membership').where({ portfolio_id: 1, account_id: second?.id }).update({ role: 'owner' });
    expect((await want(true, right)).status).toBe(200);
    const [without, with_] = [
      await as(owner).get('/api/portfolios/1/people'),
      await as(right).get('/api/portfolios/1/people'),
    ];
    expect([without.status, with_.status]).toEqual([403, 200]);
    await want(false, right);
    expect((await as(owner).get('/api/portfolios/1/people')).status).toBe(200);
  });
});

describe('whoever is removed', () => {
  it('hears nothing any more, and the private links they made end or are handed over', async () => {
    const listen = async ({ cookie }: Session) => {
      const { port } = server.address() as AddressInfo;
      const response = await new Promise<IncomingMessage>((done) =>
        get({ host: '127.0.0.1', port, path: '/api/portfolios/1/events', headers: { Cookie: cookie } }, done),
      );
      const ended = new Promise<string>((done) => response.resume().once('end', () => done('ended')));
      return () =>
        Promise.race([ended, new Promise<string>((done) => setTimeout(() => done('goes on'), 3_000).unref())]);
    };
    const [publisher, author, owner] = [await signIn('publisher'), await signIn('author'), await signIn('owner')];
    const [stream, other] = [await listen(publisher), await listen(author)];
    const page = await world.page('/shared');
    const share = async (session: Session) => {
      const endsAt = new Date(later(world.now, 9 * 24 * 60 * MINUTE)).toISOString();
      const made = await as(session).send('post', '/api/portfolios/1/private-links', {
        name: 'L',
        pages: [page],
        endsAt,
      });
      return (made.body as { id: number }).id;
    };
    const [first, second] = [await share(publisher), await share(author)];
    const { body } = (await as(owner).get('/api/portfolios/1/people')) as {
      body: { members: { id: number; name: string; links: number }[] };
    };
    const of = (name: string) => body.members.find((one) => one.name === name);
    expect([of('publisher')?.links, of('author')?.links]).toEqual([1, 1]);
    const remove = (name: string, keepsLinks: boolean) =>
      as(owner).send('post', `/api/portfolios/1/people/${of(name)?.id}/remove`, { keepsLinks });
    await remove('publisher', false);
    expect([await stream(), await other()]).toEqual(['ended', 'goes on']);
    await remove('author', true);
    expect(await other()).toBe('ended');
    const links = (await as(owner).get('/api/portfolios/1/private-links')).body as {
      id: number;
      isEnded: boolean;
      madeBy: string;
    }[];
    expect(links.find(({ id }) => id === first)?.isEnded).toBe(true);
    expect(links.find(({ id }) => id === second)).toMatchObject({ isEnded: false, madeBy: 'owner' });
  });
});

describe('a host below a domain that another portfolio holds', () => {
  it('wants a code of its owner, which works once', async () => {
    const [owner, stranger] = [await signIn('owner'), await signIn('stranger')];
    const site = (host: string, consent: string | null = null) =>
      as(stranger).send('post', '/api/portfolios/2/sites', {
        name: 'Login',
        host,
        basePath: '/',
        theme: 'ferry',
        consent,
      });
    const refused = await site('login.one.example');
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([
      422,
      expect.stringContaining('under a domain that another portfolio of this installation holds'),
    ]);
    const allow = (session: Session, portfolio: number, host: string) =>
      as(session).send('post', `/api/portfolios/${portfolio}/sites/allowed-hosts`, { host });
    expect((await allow(stranger, 2, 'login.one.example')).status).toBe(422);
    const { code } = (await allow(owner, 1, 'shop.one.example')).body as { code: string };
    expect((await site('login.one.example', code)).status).toBe(422);
    expect((await site('shop.one.example', code)).status).toBe(200);
    expect((await site('shop.one.example', code)).status).toBe(422);
  });
});
