import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { newBlock, richTextOf, type PageDocument } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { tableOf } from '@domatium/core/register';
import { instant, later, MINUTE } from '@domatium/core/time';
import ICAL from 'ical.js';
import type { Express } from 'express';
import request from 'supertest';
import { buildApp, EventHub } from '../../src/index.js';
import { saveDraft } from '../../src/features/drafts/index.js';
import { register } from '../../src/features/register/service.js';
import { PASSWORD, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
let app: Express;
let hub: EventHub;
let cookie = '';
let csrf = '';
beforeAll(async () => {
  world = await World.open();
  hub = new EventHub(world.url);
  world.now = instant(Math.ceil(Date.now() / MINUTE) * MINUTE);
  app = buildApp({
    checkAnswer,
    database: world.database,
    blobs: world.publisher.blobs,
    hub,
    style: world.publisher.style,
    clock: () => world.now,
  });
  const signed = await request(app).post('/api/session').send({ email: 'owner@one.example', password: PASSWORD });
  cookie = (signed.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  csrf = (signed.body as { csrf: string }).csrf;
});
afterAll(async () => {
  await hub.close();
  await world.close();
});
const get = (path: string) => request(app).get(`/api/portfolios/1${path}`).set('Cookie', cookie);
const post = (path: string, body: object = {}) =>
  request(app).post(`/api/portfolios/1${path}`).set('Cookie', cookie).set('X-Csrf-Token', csrf).send(body);

it('takes any view out as CSV and JSON in its order, with formulas escaped', async () => {
  const [bad, ended] = [await world.page('/formula', { name: '=1+2,"x"' }), await world.page('/ended')];
  await world.press([world.put(ended, world.now + 10 * MINUTE, world.now + 20 * MINUTE)]);
  const csv = await get('/register/export.csv?sort=name:asc');
  expect(csv.headers['content-type']).toContain('text/csv');
  const lines = csv.text.split('\r\n');
  expect(lines[0]).toMatch(/^\uFEFFid,name,address,site,state,from/);
  expect(lines[1]).toContain(`"'=1+2,""x"""`);
  expect(lines).toHaveLength(4);
  const at = new Date(world.now + 15 * MINUTE).toISOString();
  const live = await get(`/register/export.json?state=live&at=${at}`);
  expect(JSON.parse(live.text)).toMatchObject([{ id: ended, state: 'live', name: 'Page /ended' }]);
  expect(JSON.parse((await get('/register/export.json?find=nothing-like-that')).text)).toEqual([]);
  expect((await get('/register/export.csv?scope=bin')).text.split('\r\n')).toHaveLength(2);
  expect(tableOf((await register(world.context(), world.one)).columns).rowOfId.has(bad)).toBe(true);
});

it('says of each page whether search engines can find it: by what its revision asks on the air, now and at any moment', async () => {
  const [open, hidden, until] = [
    await world.page('/open-to-all'),
    await world.page('/kept-out'),
    await world.page('/out-of-date'),
  ];
  const asks = async (page: number, robots: object) => {
    const { document, version } = (await world
      .database('draft')
      .where({ page_id: page })
      .first('document', 'version')) as {
      document: PageDocument;
      version: number;
    };
    const asked = { ...document, metadata: { ...document.metadata, robots } };
    await saveDraft(world.context(), world.one, page as PageId, version, asked);
  };
  await asks(hidden, { noindex: true });
  await asks(until, { unavailableAfter: { at: world.now + 30 * MINUTE, zone: 'Europe/Oslo' } });
  const from = world.now + 10 * MINUTE;
  await world.press([open, hidden, until].map((page) => world.put(page, from, from + 60 * MINUTE)));
  // What is asked in the draft alone is asked of nobody.
  await asks(open, { noindex: true });
  const said = async (minutes: number, search = '') => {
    const at = new Date(from + minutes * MINUTE).toISOString();
    const { text } = await get(`/register/export.json?sort=name:asc&at=${at}${search && `&search=${search}`}`);
    const rows = JSON.parse(text) as { id: number; 'search engines': string }[];
    return rows.filter(({ id }) => [open, hidden, until].includes(id as PageId)).map((row) => row['search engines']);
  };
  expect(await said(5)).toEqual(['No: kept out itself', 'Hardly: not linked', 'Hardly: not linked']);
  expect(await said(25)).toEqual(['No: kept out itself', 'Hardly: not linked', 'No: its date is past']);
  expect(await said(90)).toEqual(['No: not live', 'No: not live', 'No: not live']);
  expect(await said(25, 'unavailable')).toEqual(['No: its date is past']);
});

it('keeps views by name: one’s own, and those of the team, which others can’t remove', async () => {
  await post('/views', { name: 'Ends soon', isShared: true, parts: { state: 'ending' } });
  await post('/views', { name: 'Ends soon', isShared: true, parts: { state: 'ending', sort: 'when:asc' } });
  const { body } = (await get('/views')) as { body: { id: number; parts: object; isOwn: boolean }[] };
  expect(body).toMatchObject([{ name: 'Ends soon', isOwn: true, parts: { state: 'ending', sort: 'when:asc' } }]);
  const theirs = await request(app).post('/api/session').send({ email: 'reader@one.example', password: PASSWORD });
  const reader = (theirs.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const seen = await request(app).get('/api/portfolios/1/views').set('Cookie', reader);
  expect(seen.body).toMatchObject([{ name: 'Ends soon', isOwn: false, by: 'owner' }]);
  const removed = await request(app)
    .post(`/api/portfolios/1/views/${body[0]?.id}/remove`)
    .set('Cookie', reader)
    .set('X-Csrf-Token', (theirs.body as { csrf: string }).csrf)
    .send({});
  expect(removed.status).toBe(404);
  expect((await post('/views', { name: '', parts: {} })).status).toBe(422);
});

it('feeds a calendar with stable identities that a well-known parser reads, until it is ended', async () => {
  const page = await world.page('/in-calendar', { name: 'Øy; “lights”, and\nmore' });
  await world.press([world.put(page, world.now + 30 * MINUTE, world.now + 60 * MINUTE)]);
  const made = (await post('/feeds', { name: 'All', parts: { find: 'lights' } })).body as { id: number; path: string };
  const read = async () => {
    const answer = await request(app).get(made.path);
    expect(answer.headers['content-type']).toContain('text/calendar');
    const calendar = new ICAL.Component(ICAL.parse(answer.text) as never);
    return calendar.getAllSubcomponents('vevent').map((event) => new ICAL.Event(event));
  };
  const events = await read();
  expect(events.map(({ summary }) => summary)).toEqual([
    'Øy; “lights”, and\nmore goes live',
    'Øy; “lights”, and\nmore comes off',
  ]);
  // It is long enough to be seen, and what comes off does not reach into the day after.
  expect(events.map((event) => event.duration.toSeconds())).toEqual(events.map(() => 900));
  // From the calendar one gets to the page.
  expect(events[0]?.component.getFirstPropertyValue('url')).toMatch(/\/in-calendar$/);
  expect(events[0]?.startDate.toUnixTime()).toBe((world.now + 30 * MINUTE) / 1000);
  world.now = later(world.now, MINUTE);
  expect((await read()).map(({ uid }) => uid)).toEqual(events.map(({ uid }) => uid));
  await post(`/feeds/${made.id}/remove`);
  expect((await request(app).get(made.path)).status).toBe(404);
});

it('finds pages by what their drafts say, whole words or their beginnings, and only one’s own', async () => {
  const page = await world.page('/says', { name: 'Plain name' });
  await world.rewrite(page, 'Lighthouse keepers wanted');
  await world.page('/theirs-says', { portfolio: world.two, site: 3, name: 'Lighthouse keepers' });
  const found = async (text: string) => (await get(`/register/found?text=${encodeURIComponent(text)}`)).body as object;
  expect(await found('lightho keep')).toEqual({ pages: [page] });
  expect(await found('lighthouse seller')).toEqual({ pages: [] });
  expect(await found("!&|':*")).toEqual({ pages: [] });
  expect(await found('opening')).toEqual({ pages: [] });
  const long = Array.from({ length: 80_000 }, (_, n) => `w${n.toString(36)}`).join(' ');
  const [draft] = (await world.database('draft').where({ page_id: page }).select('version')) as { version: number }[];
  const block = newBlock('text', 'text1', { body: richTextOf(long.slice(0, 99_000)) });
  const document = {
    metadata: { title: 'Long', description: '' },
    blocks: [
      block,
      ...Array.from({ length: 14 }, (_, n) => ({
        ...block,
        id: `text${n}x`,
        fields: { body: richTextOf(long.slice(n * 9000, n * 9000 + 99_000)) },
      })),
    ],
  };
  await saveDraft(world.context(), world.one, page, draft?.version ?? 1, document);
  expect(await found(`w${(5).toString(36)}`)).toEqual({ pages: [page] });
});
