import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newBlock } from '@domatium/core/document';
import type { PageId, PictureId } from '@domatium/core/plan';
import type { ReleaseChange } from '@domatium/contracts';
import { DAY, later, MINUTE } from '@domatium/core/time';
import request from 'supertest';
import { buildApp, EventHub } from '../../src/index.js';
import { setSiteRules } from '../../src/features/people/sites.js';
import {
  approvePrepared,
  changePrepared,
  prepare,
  preparedReleases,
  sayOf,
  pressPrepared,
} from '../../src/heart/prepared/service.js';
import * as reviews from '../../src/features/reviews/service.js';
import { saveDraft } from '../../src/features/drafts/index.js';
import { tellOfEnds } from '../../src/features/tasks/index.js';
import { mailDigests } from '../../src/platform/mail/digest.js';
import { release } from '../../src/heart/releases/index.js';
import { newStock } from '../../src/features/stock/index.js';
import { documentOf, PASSWORD, World } from './harness.js';
import { checkAnswer } from '../../../contracts/test/answers.js';

let world: World;
let hub: EventHub;
let app: ReturnType<typeof buildApp>;
beforeAll(async () => {
  world = await World.open();
  const { database, publisher } = world;
  hub = new EventHub(world.url);
  app = buildApp({
    checkAnswer,
    database,
    hub,
    blobs: publisher.blobs,
    style: publisher.style,
    clock: () => world.now,
  });
});
afterAll(async () => {
  await hub.close();
  await world.close();
});

const PRIVATE = 'private.localhost';
const share = async (pages: PageId[], changes: Partial<reviews.Sharing> = {}) => {
  const sharing = { name: 'For the crew', pages, siteId: null, endsAt: later(world.now, DAY), password: null };
  return reviews.newPrivateLink(world.context(), world.one, { ...sharing, ...changes });
};
const visitor = (token: string, key: string | null = null) => ({ token, key });
const say = (token: string, pageId: PageId, changes: Partial<reviews.Saying> = {}) =>
  reviews.sayRemark(world.context(null), visitor(token), pageId, {
    ...{ kind: 'remark', text: 'Too long', name: 'Ana', blockId: 'opening1', draftVersion: 1 },
    ...changes,
  });

describe('a private link', () => {
  it('shows its pages as their drafts have them, and no others', async () => {
    const [one, other] = [await world.page('/private-one'), await world.page('/private-other')];
    const { token } = await share([one]);
    expect(await reviews.privateView(world.context(null), visitor(token))).toMatchObject({
      name: 'For the crew',
      pages: [{ id: one, address: 'one.example/private-one' }],
    });
    await world.rewrite(one, 'New words');
    const page = await reviews.privatePage(world.context(null), visitor(token), one);
    expect(JSON.stringify(page.document)).toContain('New words');
    await expect(reviews.privatePage(world.context(null), visitor(token), other)).rejects.toMatchObject({
      code: 'not-found',
    });
    await expect(share([one], { endsAt: world.now })).rejects.toMatchObject({ code: 'invalid' });
    await expect(share([])).rejects.toMatchObject({ code: 'invalid' });
    await expect(share([9999 as PageId])).rejects.toMatchObject({ code: 'invalid' });
  });
  it('brings along whatever its pages show: pictures in both kinds, files, own CSS of the site', async () => {
    const id = await world.page('/private-all');
    const hashes = { webp: 'c'.repeat(64), avif: 'd'.repeat(64), film: 'e'.repeat(64), other: 'f'.repeat(64) };
    for (const hash of Object.values(hashes))
      await world.publisher.blobs.write('files', new Map([[hash, Buffer.from(hash)]]));
    const variants = [{ width: 640, hash: hashes.webp, avif: hashes.avif, bytes: 1 }];
    const add = async (table: string, row: object): Promise<number> =>
      (
        (await world
          .database(table)
          .insert({ portfolio_id: world.one, ...row })
          .returning('id')) as { id: number }[]
      )[0]?.id ?? 0;
    const picture = await add('picture', {
      name: 'p',
      description: '',
      width: 640,
      height: 480,
      variants: JSON.stringify(variants),
      state: 'ready',
      progress: 1,
    });
    const film = { ending: 'mp4', bytes: 64, created_at: new Date(world.now) };
    const file = await add('stored_file', { name: 'film', hash: hashes.film, ...film });
    await add('stored_file', { name: 'unseen', hash: hashes.other, ...film });
    const document = documentOf('All of it');
    const blocks = [
      ...document.blocks,
      newBlock('picture', 'pict1', {
        picture: { pictureId: picture as PictureId, description: 'A', isDecorative: false },
      }),
      newBlock('video', 'film1', { file: { id: file } }),
    ];
    await saveDraft(world.context(), world.one, id, 1, { ...document, blocks });
    const css = { kind: 'css' as const, name: 'CSS', content: { css: 'h1 { color: teal }' }, siteId: 1 };
    const { id: item } = await newStock(world.context(), world.one, css as never);
    const put = { act: 'put', itemId: item, from: 'now', until: null } as const;
    await release(world.context(), world.one, { changes: [], stock: [put], idempotencyKey: 'css-for-private' });
    world.now = later(world.now, MINUTE);
    const { token } = await share([id]);
    const shown = await reviews.privatePage(world.context(null), visitor(token), id);
    expect(shown.siteCss).toBe('h1 { color: teal }');
    expect(shown.endsAt).toBeNull();
    await world.press([world.put(id, later(world.now, DAY), later(world.now, 3 * DAY))]);
    const planned = await reviews.privatePage(world.context(null), visitor(token), id);
    expect(planned.endsAt).toBe(later(world.now, 3 * DAY));
    expect(shown.files.map(({ name }) => name)).toEqual(['film']);
    const got = async (src: string) => request(app).get(src).set('Host', PRIVATE);
    const [variant] = shown.pictures.find((one) => one.id === picture)?.variants ?? [];
    for (const src of [variant?.src, variant?.avif, shown.files[0]?.src])
      expect((await got(src ?? '')).status).toBe(200);
    expect((await got(`/api/private/${token}/files/${'9'.repeat(64)}.avif`)).status).toBe(404);
    expect((await got(`/api/private/nobody/files/${hashes.avif}.avif`)).status).toBe(404);
  });
  it('of a site shows what the site has by then', async () => {
    const { token } = await share([], { siteId: 2 });
    const seen = async () =>
      (await reviews.privateView(world.context(null), visitor(token))).pages.map(({ name }) => name);
    const before = await seen();
    await world.page('/later', { site: 2, name: 'Came later' });
    expect(await seen()).toEqual([...before, 'Came later']);
  });
  it('opens nothing after its end, or once it was taken back', async () => {
    const { id, token } = await share([await world.page('/ended')]);
    const context = { ...world.context(null), now: later(world.now, DAY) };
    await expect(reviews.privateView(context, visitor(token))).rejects.toMatchObject({ code: 'link-ended' });
    await reviews.revokePrivateLink(world.context(), world.one, id);
    await expect(reviews.privateView(world.context(null), visitor(token))).rejects.toMatchObject({
      code: 'link-ended',
    });
    await expect(reviews.revokePrivateLink(world.context(), world.one, id)).rejects.toMatchObject({
      code: 'not-found',
    });
    await expect(reviews.privateView(world.context(null), visitor('x'.repeat(32)))).rejects.toMatchObject({
      code: 'not-found',
    });
  });
  it('wants its password, and makes those wait who guess', async () => {
    const id = await world.page('/guarded');
    const { token } = await share([id], { password: 'lighthouse' });
    const open = (password: string) => reviews.openPrivate(world.context(null), token, password, '10.0.0.9');
    await expect(reviews.privateView(world.context(null), visitor(token))).rejects.toMatchObject({
      code: 'password-needed',
    });
    await expect(reviews.privateView(world.context(null), visitor(token, 'k'.repeat(32)))).rejects.toMatchObject({
      code: 'password-needed',
    });
    for (let n = 0; n < 6; n++) await open('guess').catch(() => undefined);
    await expect(open('lighthouse')).rejects.toMatchObject({ code: 'too-many-tries' });
    world.now = later(world.now, 20 * MINUTE);
    const { key } = await open('lighthouse');
    expect((await reviews.privateView(world.context(null), visitor(token, key))).pages).toHaveLength(1);
    const { token: another } = await share([id], { password: 'lighthouse' });
    await expect(reviews.privateView(world.context(null), visitor(another, key))).rejects.toMatchObject({
      code: 'password-needed',
    });
  });
  it('lies on an origin of its own, kept out of search', async () => {
    const { token } = await share([await world.page('/own-origin')]);
    const at = (host: string, path: string) => request(app).get(path).set('Host', host);
    const seen = await at(PRIVATE, `/api/private/${token}`).expect(200);
    expect(seen.headers['x-robots-tag']).toBe('noindex, nofollow');
    await at('localhost', `/api/private/${token}`).expect(404);
    await at(PRIVATE, '/api/portfolios/1/register').expect(404);
    await request(app)
      .post('/api/session')
      .set('Host', PRIVATE)
      .send({ email: 'owner@one.example', password: PASSWORD })
      .expect(404);
    await at(PRIVATE, `/api/private/${token}/files/${'a'.repeat(64)}.webp`).expect(404);
  });
});

describe('what visitors say', () => {
  it('stands on the revision they saw, and tells what changed since', async () => {
    const id = await world.page('/said');
    const { token } = await share([id]);
    await say(token, id, { text: '<script>alert(1)</script>' });
    const before = await reviews.review(world.context(), world.one, id);
    expect(before.remarks).toMatchObject([
      { name: 'Ana', revision: 1, block: 'Opening “Page /said”', text: '<script>alert(1)</script>', settledAt: null },
    ]);
    expect(before.since).toEqual([[1, []]]);
    await world.rewrite(id, 'Better words');
    const { since } = await reviews.review(world.context(), world.one, id);
    expect(since).toEqual([[1, ['Opening “Page /said”: changed', 'Title, description or settings: changed']]]);
    await expect(say(token, id)).rejects.toMatchObject({ code: 'stale' });
    await say(token, id, { kind: 'fine', text: '', blockId: null, draftVersion: 2 });
    const after = await reviews.review(world.context(), world.one, id);
    expect(after.remarks.map(({ kind, revision }) => [kind, revision])).toEqual([
      ['fine', 2],
      ['remark', 1],
    ]);
    // What was said of a draft and what is released of it are the same revision.
    await world.press([world.put(id, 'now')]);
    expect(await world.database('revision').where({ page_id: id })).toHaveLength(2);
    world.now = later(world.now, MINUTE);
    await reviews.settleRemark(world.context(), world.one, after.remarks[1]?.id ?? 0);
    const settled = await reviews.review(world.context(), world.one, id);
    expect(settled.remarks[1]?.settledBy).toBe('owner');
  });
  it('is answered both ways, is told by mail, and stays to be read once it is settled', async () => {
    const id = await world.page('/answered');
    await world
      .database('page')
      .where({ id })
      .update({ owner_id: world.context('author').account });
    const { token } = await share([id]);
    await world.database('mail').delete();
    const told = async () =>
      (await world.database('mail').orderBy('id').select('recipient', 'subject', 'path')) as object[];
    await say(token, id);
    const path = `/portfolios/1/pages?page=${id}`;
    expect(await told()).toMatchObject([
      { recipient: 'owner@one.example', subject: 'Ana said something of “Page /answered”', path },
      { recipient: 'author@one.example', path },
    ]);
    const [remark] = (await reviews.review(world.context(), world.one, id)).remarks;
    await world.database('mail').delete();
    await reviews.answerRemark(world.context('author'), world.one, remark?.id ?? 0, 'Why not nine?');
    const visitor = { token, key: null };
    await reviews.answerPrivately(world.context(null), visitor, remark?.id ?? 0, { name: 'Ana', text: 'Nine, then' });
    expect((await told()).map((mail) => (mail as { recipient: string }).recipient)).toEqual([
      'owner@one.example',
      'owner@one.example',
      'author@one.example',
    ]);
    await reviews.settleRemark(world.context(), world.one, remark?.id ?? 0);
    const { remarks } = await reviews.privatePage(world.context(null), visitor, id);
    expect(remarks).toMatchObject([
      {
        settledBy: 'owner',
        answers: [
          { name: 'author', text: 'Why not nine?', isOurs: true },
          { name: 'Ana', text: 'Nine, then', isOurs: false },
        ],
      },
    ]);
    const other = await share([await world.page('/elsewhere')]);
    await expect(
      reviews.answerPrivately(world.context(null), { token: other.token, key: null }, remark?.id ?? 0, {
        ...{ name: 'Eve', text: 'x' },
      }),
    ).rejects.toMatchObject({ code: 'not-found' });
  });
  it('and the owner of a page hears once that it comes off within a day, unless another period follows', async () => {
    const owned = async (path: string, until: number | null) => {
      const id = await world.page(path);
      await world
        .database('page')
        .where({ id })
        .update({ owner_id: world.context('author').account });
      await world.press([world.put(id, 'now', until)]);
      return id;
    };
    const soon = later(world.now, 3 * 60 * MINUTE);
    const id = await owned('/ends-soon', soon);
    await owned('/ends-late', later(world.now, 3 * DAY));
    await owned('/never-ends', null);
    const followed = await owned('/goes-on', soon);
    world.now = later(world.now, MINUTE);
    await world.press([world.put(followed, soon)]);
    await world.database('mail').delete();
    expect(await tellOfEnds(world.database, world.now)).toBe(1);
    expect(await tellOfEnds(world.database, later(world.now, MINUTE))).toBe(0);
    expect(await world.database('mail').select('recipient', 'subject', 'path')).toMatchObject([
      {
        recipient: 'author@one.example',
        subject: expect.stringMatching(/^“Page \/ends-soon” comes off /),
        path: `/portfolios/1/pages?page=${id}`,
      },
    ]);
  });
  it('is refused in words where it can’t be kept', async () => {
    const id = await world.page('/refused');
    const { token } = await share([id]);
    await expect(say(token, id, { blockId: 'gone' })).rejects.toMatchObject({ code: 'invalid' });
    const post = (body: object) =>
      request(app).post(`/api/private/${token}/pages/${id}/remarks`).set('Host', PRIVATE).send(body);
    await post({ kind: 'remark', text: ' ', name: 'Ana', blockId: null, draftVersion: 1 }).expect(422);
    await post({ kind: 'fine', text: '', name: ' ', blockId: null, draftVersion: 1 }).expect(422);
    await post({ kind: 'loved', text: 'x', name: 'Ana', blockId: null, draftVersion: 1 }).expect(422);
    await post({ kind: 'change', text: '', name: 'Ana', blockId: null, draftVersion: 1 }).expect(200);
  });
});

describe('a site that wants approvals', () => {
  beforeAll(async () => {
    await setSiteRules(world.context(), world.one, 1, { approvals: 1, severities: {} });
  });
  afterAll(() => setSiteRules(world.context(), world.one, 1, { approvals: 0, severities: {} }));
  const waits = async (id: number) => (await preparedReleases(world.context(), world.one)).find((one) => one.id === id);
  const press = (id: number, version = 1) =>
    pressPrepared(world.context('publisher'), world.one, id, version, `press-${id}-${version}-${Math.random()}`);

  it('refuses a release nobody else has seen, but never a page taken off', async () => {
    const id = await world.page('/unseen');
    await expect(world.press([world.put(id, 'now')])).rejects.toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('Site wants an approval before a release'),
    });
    const elsewhere = await world.page('/free', { site: 2 });
    await world.press([world.put(elsewhere, 'now')]);
    world.now = later(world.now, MINUTE);
    await world.press([{ act: 'take-off', pageId: elsewhere, from: 'now', until: null, afterwards: { kind: 'gone' } }]);
  });
  it('refuses to send its visitors elsewhere unseen: by a redirect to an outside address, the bin, or a move', async () => {
    const id = await world.page('/sent-away');
    await setSiteRules(world.context(), world.one, 1, { approvals: 0, severities: {} });
    await world.press([world.put(id, 'now')]);
    await setSiteRules(world.context(), world.one, 1, { approvals: 1, severities: {} });
    world.now = later(world.now, MINUTE);
    const outside = { kind: 'redirect', status: 301, target: { kind: 'outside', url: 'https://o.example/' } } as const;
    for (const change of [
      { act: 'take-off', pageId: id, from: 'now', until: null, afterwards: outside },
      { act: 'bin', pageId: id, afterwards: { kind: 'gone' } },
      { act: 'move', pageId: id, at: 'now', siteId: 2, path: '/sent-away', leaves: null },
    ] as const)
      await expect(world.press([change])).rejects.toMatchObject({ code: 'conflict' });
    await world.press([{ act: 'take-off', pageId: id, from: 'now', until: null, afterwards: { kind: 'gone' } }]);
  });
  it('can have everything prepared that it refuses, and approved by somebody else', async () => {
    const rules = (approvals: number) => setSiteRules(world.context(), world.one, 1, { approvals, severities: {} });
    const outside = { kind: 'redirect', status: 301, target: { kind: 'outside', url: 'https://o.example/' } } as const;
    const acts = (id: PageId) => [
      { act: 'move', pageId: id, at: 'now', siteId: 1, path: `/moved-${id}`, leaves: null },
      { act: 'shift', pageId: id, days: 2 },
      { act: 'afterwards', pageId: id, afterwards: outside },
      { act: 'take-off', pageId: id, from: 'now', until: null, afterwards: outside },
      { act: 'bin', pageId: id, afterwards: { kind: 'gone' } },
    ];
    for (const index of acts(0 as PageId).keys()) {
      await rules(0);
      const id = await world.page(`/act-${index}`);
      await world.press([world.put(id, 'now', world.now + 5 * DAY)]);
      world.now = later(world.now, MINUTE);
      await rules(1);
      const change = acts(id)[index] as ReleaseChange;
      await expect(world.press([change])).rejects.toMatchObject({ code: 'conflict' });
      const { id: made } = await prepare(world.context(), world.one, { name: `Act ${change.act}`, changes: [change] });
      await approvePrepared(world.context('publisher'), world.one, made, 1);
      expect((await press(made)).id).toBeGreaterThan(0);
      world.now = later(world.now, MINUTE);
    }
  });
  it('has words both ways: those who approve are told, send it back with words, and its author hears of it', async () => {
    const mails = async () =>
      (await world.database('mail').orderBy('id').select('recipient', 'subject', 'body', 'path')) as object[];
    const id = await world.page('/words');
    await world.database('mail').delete();
    const { id: made } = await prepare(world.context('author'), world.one, {
      name: 'Words',
      changes: [world.put(id, 'now')],
    });
    const path = `/portfolios/1/pages?panel=prepared&prepared=${made}`;
    expect(await mails()).toMatchObject(
      ['owner@one.example', 'publisher@one.example', 'second@one.example'].map((recipient) => ({
        ...{ recipient, path },
        subject: 'author prepared “Words”: it wants an approval',
      })),
    );
    await world.database('mail').delete();
    await world.database('account').where({ email: 'author@one.example' }).update({ mail_wish: 'daily' });
    const say = (who: string, sendsBack: boolean, text = 'The date is wrong') =>
      sayOf(world.context(who), world.one, made, { version: 1, text, sendsBack });
    await approvePrepared(world.context('publisher'), world.one, made, 1);
    await expect(say('author', true)).rejects.toMatchObject({ code: 'conflict' });
    await say('publisher', true);
    expect(await waits(made)).toMatchObject({
      isSentBack: true,
      approvals: { given: [] },
      words: [{ by: 'publisher', text: 'The date is wrong', sendsBack: true }],
    });
    expect(await mails()).toEqual([]);
    // One mail the next morning, for whoever wants it so.
    expect(await mailDigests(world.database, world.now)).toBe(0);
    expect(await mailDigests(world.database, later(world.now, 2 * DAY))).toBe(1);
    expect(await mails()).toMatchObject([
      {
        recipient: 'author@one.example',
        body: expect.stringMatching(/“Words” was approved\n.*\n- “Words” was sent back/),
      },
    ]);
    await world.database('account').where({ email: 'author@one.example' }).update({ mail_wish: 'at-once' });
    await say('author', false, 'It is right: see the plan');
    expect((await mails()).at(-1)).toMatchObject({
      recipient: 'publisher@one.example',
      body: 'Something was said of “Words”\n\nIt is right: see the plan',
    });
    await changePrepared(world.context('author'), world.one, made, 1, {
      name: 'Words',
      changes: [world.put(id, 'now')],
    });
    expect((await waits(made))?.isSentBack).toBe(false);
  });
  it('presses what was approved, however somebody types at the same moment', async () => {
    for (let n = 0; n < 4; n++) {
      const id = await world.page(`/typed-at-the-press-${n}`);
      await world.rewrite(id, 'Words that were approved');
      const changes = [world.put(id, 'now')];
      const { id: prepared } = await prepare(world.context('owner'), world.one, { name: 'Race', changes });
      await approvePrepared(world.context('publisher'), world.one, prepared, 1);
      const [pressed] = await Promise.allSettled([
        press(prepared),
        world.rewrite(id, 'Words that nobody approved').catch(() => undefined),
        world.rewrite(id, 'Words that nobody approved').catch(() => undefined),
      ]);
      const rows = (await world.database('revision').where({ page_id: id }).select('document')) as {
        document: { blocks: { fields: { heading: string } }[] };
      }[];
      const headings = rows.map(({ document }) => document.blocks[0]?.fields.heading);
      expect(headings).toEqual(pressed?.status === 'fulfilled' ? ['Words that were approved'] : []);
    }
  });
  it('lets it go once somebody else approved what it is now', async () => {
    const id = await world.page('/approved');
    const changes = [world.put(id, 'now')];
    const { id: prepared } = await prepare(world.context('owner'), world.one, { name: 'Go', changes });
    const one = await waits(prepared);
    expect(one?.approvals).toMatchObject({
      needed: 1,
      given: [],
      waitsFor: [{ name: 'publisher' }, { name: 'second' }],
    });
    await expect(press(prepared)).rejects.toMatchObject({ code: 'conflict' });
    await expect(approvePrepared(world.context('owner'), world.one, prepared, 1)).rejects.toMatchObject({
      code: 'conflict',
    });
    await approvePrepared(world.context('publisher'), world.one, prepared, 1);
    expect((await waits(prepared))?.approvals.given).toMatchObject([{ name: 'publisher' }]);
    // A change of what is prepared, or of the page itself, asks for it anew.
    await changePrepared(world.context('owner'), world.one, prepared, 1, { name: 'Go on', changes });
    expect((await waits(prepared))?.approvals.given).toEqual([]);
    await approvePrepared(world.context('publisher'), world.one, prepared, 2);
    world.now = later(world.now, MINUTE);
    await world.rewrite(id, 'Changed after it was approved');
    expect((await waits(prepared))?.approvals.given).toEqual([]);
    await expect(press(prepared, 2)).rejects.toMatchObject({ code: 'conflict' });
    world.now = later(world.now, MINUTE);
    await approvePrepared(world.context('publisher'), world.one, prepared, 2);
    expect((await press(prepared, 2)).id).toBeGreaterThan(0);
    expect(await waits(prepared)).toBeUndefined();
  });
  it('says so where its time passed first', async () => {
    const id = await world.page('/lapsed');
    const changes = [world.put(id, later(world.now, 60 * MINUTE))];
    const { id: prepared } = await prepare(world.context('owner'), world.one, { name: 'Late', changes });
    world.now = later(world.now, 61 * MINUTE);
    expect((await waits(prepared))?.isLapsed).toBe(true);
    await approvePrepared(world.context('publisher'), world.one, prepared, 1);
    await expect(press(prepared)).rejects.toMatchObject({ message: expect.stringContaining('Its time passed on') });
  });
});
