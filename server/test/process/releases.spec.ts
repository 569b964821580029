import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { canonical, type Claim, type PageId } from '@domatium/core/plan';
import { resolve } from '@domatium/core/routing';
import {
  daysLater,
  instant,
  instantOfWall,
  isoInstant,
  later,
  MINUTE,
  wallOf,
  type Instant,
} from '@domatium/core/time';
import { problemOf } from '../../src/platform/http/problem.js';
import { claimsOfNeighbourhood, claimsAt, neighbourhoodOf } from '../../src/heart/plans/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { sheet } from '../../src/features/pages/service.js';
import { saveDraft } from '../../src/features/drafts/index.js';
import { documentOf, World, ZONE } from './harness.js';

let world: World;
let minute = 0;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
  minute = Math.ceil(world.now / MINUTE) * MINUTE;
});

const inMinutes = (n: number) => minute + n * MINUTE;
const problem = async (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: Error & { extra?: { fields?: { path: string; message: string }[] } }) => ({
      status: problemOf(error).status,
      message: error.message,
      fields: error.extra?.fields ?? [],
    }),
  );
const routes = () => world.routes();
const publish = () => world.publish();
const bodyOf = async (artifact: string | null) => String((await world.publisher.blobs.readPage(artifact ?? '')) ?? '');

describe('releases', () => {
  it('store exactly the claims that the inputs derive, and publish them, after any acts (rule 1)', async () => {
    const pages = await Promise.all(['/p1', '/p2', '/p3'].map((path) => world.page(path)));
    const act = fc.record({
      who: fc.constantFrom(...pages),
      kind: fc.constantFrom('release', 'release', 'off', 'move', 'undo'),
      ahead: fc.integer({ min: 0, max: 50 }),
      size: fc.option(fc.integer({ min: 1, max: 40 }), { nil: null }),
      path: fc.constantFrom('/p1', '/p2', '/p3', '/p4'),
      back: fc.boolean(),
      target: fc.constantFrom(...pages),
    });
    const made: number[] = [];
    const list = fc.sample(act, { numRuns: 45, seed: 11 });
    let refused = 0;
    for (const { who, kind, ahead, size, path, back, target } of list) {
      world.now = later(world.now, 90_000);
      minute = Math.ceil(world.now / MINUTE) * MINUTE;
      const from = ahead === 0 ? 'now' : inMinutes(ahead);
      const until = size === null ? null : inMinutes(ahead + size);
      const answer: AnswerInput = back
        ? { kind: 'gone' }
        : { kind: 'redirect', status: 301, target: { kind: 'page', pageId: target } };
      const change: ReleaseChange =
        kind === 'move'
          ? { act: 'move', pageId: who, at: from === 'now' ? 'now' : world.wall(from), siteId: 1, path, leaves: null }
          : kind === 'off'
            ? {
                act: 'take-off',
                pageId: who,
                from: from === 'now' ? 'now' : world.wall(from),
                until: null,
                afterwards: answer,
              }
            : world.put(who, from, until, until === null ? null : answer, true);
      const done =
        kind === 'undo' && made.length
          ? await undo(world.context(), world.one, made.at(-1) as number, `u${world.now}`).then(
              ({ id }) => id,
              () => null,
            )
          : await world.press([change]).then(
              ({ id }) => id,
              () => null,
            );
      if (done === null) refused++;
      else made.push(done);
    }
    expect(made.length).toBeGreaterThan(15);
    expect(refused).toBeGreaterThan(2);
    const around = await neighbourhoodOf(
      { db: world.database, portfolioId: world.one, style: world.context().style },
      pages,
    );
    const keyOf = (claim: Claim) => canonical({ ...claim, id: 0 });
    const derived = claimsOfNeighbourhood(around).map(keyOf).sort();
    const addresses = [
      ...new Map(claimsOfNeighbourhood(around).map(({ hostId, path }) => [path, { hostId, path }])).values(),
    ];
    expect((await claimsAt(world.database, addresses)).map(keyOf).sort()).toEqual(derived);
    await publish();
    const [table, plan] = [await routes(), derived.length];
    expect(plan).toBeGreaterThan(5);
    for (const claim of claimsOfNeighbourhood(around)) {
      const at = instant(Math.max(claim.during.from, world.now));
      if (claim.during.until !== null && claim.during.until <= at) continue;
      const got = resolve(table, { host: 'one.example', path: claim.path }, at);
      if (claim.layer === 'page')
        expect(got).toMatchObject({ kind: 'page', pageId: claim.pageId, revisionId: claim.revisionId });
    }
  });

  it('leave the past closed: the database itself refuses a change of it (rule 5)', async () => {
    const page = await world.page('/past');
    await world.press([world.put(page, 'now')]);
    world.now = later(world.now, 10 * MINUTE);
    const change = (sql: string, at: Instant | null) =>
      problem(
        world.database.transaction(async (trx) => {
          if (at !== null)
            await trx.raw("SELECT set_config('domatium.instant', ?, true)", [new Date(at).toISOString()]);
          await trx.raw(sql);
        }),
      );
    for (const table of ['period', 'claim', 'placement']) {
      expect((await change(`DELETE FROM ${table} WHERE page_id = ${page}`, world.now))?.message).toContain(
        'the past of',
      );
      expect(
        (
          await change(
            `UPDATE ${table} SET until_at = from_at + interval '1 minute' WHERE page_id = ${page}`,
            world.now,
          )
        )?.message,
      ).toContain('the past of');
      expect((await change(`DELETE FROM ${table} WHERE page_id = ${page}`, null))?.message).toContain(
        'names no instant',
      );
    }
    expect((await problem(world.press([world.put(page, inMinutes(-5))])))?.fields[0]).toEqual({
      code: 'in-the-past',
      params: {},
      path: 'changes[0].from',
      message: 'That time is in the past. Choose a later one.',
    });
  });

  it('let one of two publishers have an address, and tell the other by whom and when', async () => {
    const [a, b] = [
      await world.page('/same', { name: 'First come' }),
      await world.page('/same', { name: 'Second come' }),
    ];
    const results = await Promise.allSettled([
      world.press([world.put(a, inMinutes(30), inMinutes(90))], 'owner'),
      world.press([world.put(b, inMinutes(60))], 'second'),
    ]);
    const lost = results.filter((result) => result.status === 'rejected');
    expect(lost).toHaveLength(1);
    const winner = results[0]?.status === 'fulfilled' ? ['First come', 'owner'] : ['Second come', 'second'];
    const { message, code } = lost[0]?.reason as { message: string; code: string };
    expect(code).toBe('conflict');
    expect(message).toMatch(new RegExp(`one.example/same is ${winner[0]} from .* released by ${winner[1]} on `));
    expect(await world.database('claim').whereIn('page_id', [a, b]).where({ layer: 'page' })).toHaveLength(1);
  });

  it('swap the addresses of two live pages in one release', async () => {
    const [a, b] = [await world.page('/left'), await world.page('/right')];
    await world.press([world.put(a, 'now'), world.put(b, 'now')]);
    world.now = later(world.now, MINUTE);
    const move = (pageId: PageId, path: string): ReleaseChange => ({
      act: 'move',
      pageId,
      at: 'now',
      siteId: 1,
      path,
      leaves: null,
    });
    expect((await problem(world.press([move(a, '/right')])))?.status).toBe(409);
    const { at } = await world.press([move(a, '/right'), move(b, '/left')]);
    await publish();
    const table = await routes();
    const who = (path: string, t: number) =>
      (resolve(table, { host: 'one.example', path }, t as Instant) as { pageId?: PageId }).pageId;
    expect([who('/left', at - 1), who('/right', at - 1), who('/left', at), who('/right', at)]).toEqual([a, b, b, a]);
  });

  it('take an address over: who had it comes off at that instant, and the sheet lists what was theirs', async () => {
    const [old, next] = [await world.page('/coveted'), await world.page('/elsewhere')];
    await world.press([world.put(old, 'now'), world.put(next, 'now')]);
    world.now = later(world.now, MINUTE);
    const move = { act: 'move', pageId: next, at: 'now', siteId: 1, path: '/coveted', leaves: null } as const;
    const judged = await preview(world.context(), world.one, { changes: [move] });
    expect(judged.faults).toMatchObject([{ code: 'address-taken', params: { pageId: old } }]);
    const off = { act: 'take-off', pageId: old, from: 'now', until: null, afterwards: { kind: 'not-found' } } as const;
    const { at } = await world.press([move, off]);
    await publish();
    const table = await routes();
    const given = (t: number) => resolve(table, { host: 'one.example', path: '/coveted' }, t as Instant);
    expect([given(at - 1), given(at)]).toMatchObject([{ pageId: old }, { kind: 'page', pageId: next }]);
    await world.database('visit_day').insert(
      [3, 4].map((answers, n) => ({
        ...{ portfolio_id: 1, day: new Date(world.now - n * 86_400_000), host: 'one.example', path: '/elsewhere' },
        ...{ outcome: 'redirect', page_id: next, is_bot: false, answers, visits: answers },
      })),
    );
    expect((await sheet(world.context(), world.one, next, world.now)).addresses).toEqual([
      { host: 'one.example', path: '/elsewhere', words: 'redirects here (301)', isHere: true, next: null, asked: 7 },
    ]);
  });

  it('are the same release when the same key is sent again, even at once', async () => {
    const page = await world.page('/once');
    const [one, two] = await Promise.all([
      world.press([world.put(page, 'now')], 'owner', 'the-same-key'),
      world.press([world.put(page, 'now')], 'owner', 'the-same-key'),
    ]);
    expect(one.id).toBe(two.id);
    expect(await world.database('release_page').where({ page_id: page })).toHaveLength(1);
  });

  it('refuse to put a draft live that was changed after it was looked at', async () => {
    const page = await world.page('/unseen');
    const seen = (await preview(world.context(), world.one, { changes: [world.put(page, 'now')] })).pages[0]
      ?.draftVersion;
    await world.rewrite(page, 'Changed by somebody else meanwhile');
    const press = (draftVersion: number | undefined) =>
      world.press([{ ...world.put(page, 'now'), draftVersion } as ReleaseChange]);
    expect(await problem(press(seen))).toMatchObject({ status: 412 });
    expect((await press((seen ?? 0) + 1)).id).toBeGreaterThan(0);
  });

  it('name what somebody else did meanwhile, and are refused with what was looked at before that', async () => {
    const id = await world.page('/meanwhile');
    await world.press([world.put(id, 'now')]);
    world.now = later(world.now, MINUTE);
    const changes = [world.put(id, inMinutes(90))];
    const look = (who = 'owner') => preview(world.context(who), world.one, { changes });
    const seen = await look();
    expect(seen.latest).toBeNull();
    const off = { act: 'take-off', pageId: id, from: 'now', until: null, afterwards: { kind: 'gone' } } as const;
    const by = world.context('publisher');
    await release(by, world.one, { changes: [off], idempotencyKey: `off-${id}` });
    const now = await look();
    expect(now.latest).toMatchObject({ by: 'publisher', at: world.now });
    expect(now.latest?.summary).toMatch(/off/);
    expect(now.basis).not.toBe(seen.basis);
    // What one did oneself is no news; to the others it is.
    expect((await look('publisher')).latest?.by).toBe('owner');
    const press = (basis: string) =>
      release(world.context(), world.one, { changes, idempotencyKey: `on-${id}-${basis}`, basis });
    await expect(press(seen.basis)).rejects.toMatchObject({ code: 'stale' });
    expect((await press(now.basis)).id).toBeGreaterThan(0);
    // A draft that is changed counts where it is released, and nowhere else.
    world.now = later(world.now, MINUTE);
    await saveDraft(world.context('author'), world.one, id, 1, documentOf('Changed'));
    expect((await look()).latest).toMatchObject({ by: 'author', summary: null });
    const shown = await preview(world.context(), world.one, { changes: [off] });
    expect(shown.latest?.by).toBe('publisher');
  });
  it('give a period other times without releasing anew: the revision and what comes after it stay, and undo puts back', async () => {
    const id = await world.page('/retimed');
    const outside = { kind: 'redirect', status: 302, target: { kind: 'outside', url: 'https://o.example/' } } as const;
    const plan = async () =>
      (
        (await world.database('period').where({ page_id: id }).orderBy('from_at')) as {
          from_at: number;
          until_at: number | null;
          revision_id: number;
        }[]
      ).map(({ from_at, until_at, revision_id }) => [from_at, until_at, revision_id]);
    const [soon, end, later10, later20] = [inMinutes(10), inMinutes(60), inMinutes(600), inMinutes(1200)];
    await world.press([world.put(id, 'now', end, outside)]);
    const began = world.now;
    world.now = later(world.now, MINUTE);
    await world.rewrite(id, 'Another text, which is not released by this');
    const retime = (start: number, from: number | null, until: number | null, more: object = {}) =>
      ({
        ...{ act: 'retime', pageId: id, start: isoInstant(start as Instant), afterwards: null, cutsLater: false },
        from: from === null ? null : world.wall(from),
        until: until === null ? null : world.wall(until),
        ...more,
      }) as ReleaseChange;
    // It has begun: only its end is another.
    expect(await problem(world.press([retime(began, soon, later10)]))).toMatchObject({
      fields: [{ path: 'changes[0].from', message: expect.stringContaining('begun already') }],
    });
    const { id: pressed } = await world.press([retime(began, null, later10)]);
    await publish();
    const [[, , first] = []] = await plan();
    expect(await plan()).toEqual([[began, later10, first]]);
    const at = { host: 'one.example', path: '/retimed' };
    expect(resolve(await routes(), at, later(later10 as Instant, -1))).toMatchObject({ kind: 'page', pageId: id });
    expect(resolve(await routes(), at, later10 as Instant)).toMatchObject({ kind: 'redirect', status: 302 });
    world.now = later(world.now, MINUTE);
    // One that is planned behind it is cut only where that was chosen.
    await world.press([world.put(id, later20, null)]);
    expect(await problem(world.press([retime(began, null, inMinutes(1300))]))).toMatchObject({
      fields: [{ path: 'changes[0].cutsLater' }],
    });
    await world.press([retime(later20, inMinutes(1100), inMinutes(1200), { afterwards: { kind: 'gone' } })]);
    world.now = later(world.now, MINUTE);
    const second = (await plan())[1]?.[2];
    expect(second).not.toBe(first);
    expect(await plan()).toEqual([
      [began, later10, first],
      [inMinutes(1100), inMinutes(1200), second],
    ]);
    expect(await problem(world.press([retime(later20, null, null)]))).toMatchObject({
      fields: [{ path: 'changes[0].start' }],
    });
    expect(await problem(world.press([retime(began, null, began)]))).toMatchObject({
      fields: [{ path: 'changes[0].until' }],
    });
    const { release_id: last } = (await world
      .database('release_page')
      .where({ page_id: id })
      .orderBy('release_id', 'desc')
      .first('release_id')) as { release_id: number };
    await undo(world.context(), world.one, last, 'undo-retime-1');
    expect(pressed).toBeLessThan(last);
    expect((await plan()).at(-1)).toEqual([later20, null, second]);
  });
  it('keep the clock on which a moment was chosen, and shift it on that clock', async () => {
    const id = await world.page('/on-another-clock');
    const [away, zone] = ['America/New_York', ZONE];
    // Nine o'clock there, three weeks before and two weeks after clocks go back there and not here.
    const local = (day: string) => ({ local: `${day}T09:00`, zone: away });
    const year = 2027;
    const from = local(`${year}-10-20`);
    await world.press([
      { ...world.put(id, 'now'), from, until: { local: `${year}-12-01T10:00`, zone }, afterwards: { kind: 'gone' } },
    ] as ReleaseChange[]);
    world.now = later(world.now, MINUTE);
    const zones = async () => (await sheet(world.context(), world.one, id, world.now)).zones;
    expect(await zones()).toEqual([{ at: instantOfWall(from), zone: away }]);
    await world.press([{ act: 'shift', pageId: id, days: 13 }]);
    const shifted = instantOfWall(local(`${year}-11-02`)) as Instant;
    expect(shifted).not.toBe(daysLater(instantOfWall(from) as Instant, 13, zone));
    expect((await zones()).map(({ at }) => at)).toContain(shifted);
    const [period] = (await world.database('period').where({ page_id: id })) as { from_at: number; until_at: number }[];
    expect(period).toMatchObject({
      from_at: shifted,
      until_at: instantOfWall({ local: `${year}-12-14T10:00`, zone }),
    });
    // Chosen anew on the portfolio's clock, it is on that.
    const again = { start: isoInstant(shifted), from: { local: wallOf(shifted, zone), zone }, until: null };
    const retime = { act: 'retime', pageId: id, ...again, afterwards: null, cutsLater: false } as ReleaseChange;
    world.now = later(world.now, MINUTE);
    await world.press([retime]);
    expect((await zones()).map(({ at }) => at)).not.toContain(shifted);
  });
  it('undo a release, refuse where a later one stands on it, and undo the undo', async () => {
    const page = await world.page('/back');
    await world.press([world.put(page, 'now')]);
    world.now = later(world.now, MINUTE);
    const moved = await world.press(
      [{ act: 'move', pageId: page, at: 'now', siteId: 2, path: '/there', leaves: null }],
      'second',
    );
    world.now = later(world.now, MINUTE);
    const first = await undo(world.context(), world.one, moved.id, 'undo-one-1').then(({ id }) => id);
    await publish();
    const at = world.now;
    const table = await routes();
    expect(resolve(table, { host: 'one.example', path: '/back' }, at)).toMatchObject({ kind: 'page', pageId: page });
    // The address that served only through the undone release redirects to its page.
    expect(resolve(table, { host: 'x.one.example', path: '/below/there' }, at)).toMatchObject({
      kind: 'redirect',
      to: { host: 'one.example', path: '/back' },
    });
    world.now = later(world.now, MINUTE);
    expect((await problem(undo(world.context(), world.one, moved.id, 'undo-twice')))?.message).toContain(
      'undone already',
    );
    await undo(world.context(), world.one, first, 'undo-undo-1');
    world.now = later(world.now, MINUTE);
    await world.press(
      [{ act: 'take-off', pageId: page, from: 'now', until: null, afterwards: { kind: 'gone' } }],
      'second',
    );
    const refusal = await problem(undo(world.context(), world.one, moved.id, 'undo-late'));
    expect(refusal?.message).toMatch(/by second on .* changed the same page later/);
  });

  it('follow a moved page in links, without an edit, and say what a release does to pages that link to it', async () => {
    const target = await world.page('/target');
    const referrer = await world.page('/referrer', { links: [target] });
    expect((await problem(world.press([world.put(referrer, 'now')])))?.fields[0]?.message).toContain(
      'is broken when this goes live',
    );
    await world.press([world.put(target, 'now')]);
    await world.press([world.put(referrer, 'now')]);
    const seen = await preview(world.context(), world.one, {
      changes: [
        { act: 'take-off', pageId: target, from: world.wall(inMinutes(20)), until: null, afterwards: { kind: 'gone' } },
      ],
    });
    expect(seen.lines.map(({ address, words }) => `${address}: ${words}`)).toEqual([
      'one.example/target: gone (410)',
      'one.example/referrer: links here: broken, shown as plain text',
    ]);
    world.now = later(world.now, MINUTE);
    await world.press([
      { act: 'move', pageId: target, at: world.wall(inMinutes(10)), siteId: 2, path: '/moved', leaves: null },
    ]);
    await publish();
    const table = await routes();
    const shown = async (t: number) => {
      const got = resolve(table, { host: 'one.example', path: '/referrer' }, t as Instant);
      return got.kind === 'page' ? bodyOf(got.artifact) : '';
    };
    expect(await shown(inMinutes(9))).toContain('href="/target"');
    expect(await shown(inMinutes(10))).toContain('href="http://x.one.example.localhost:');
    expect(await shown(inMinutes(10))).toContain('/below/moved"');
  });

  it('propose an end that cuts nothing, and cut later periods only where that was chosen', async () => {
    const page = await world.page('/cuts');
    await world.press([world.put(page, inMinutes(100), inMinutes(200))]);
    const seen = await preview(world.context(), world.one, { changes: [world.put(page, 'now')] });
    expect(seen.pages[0]?.proposedUntil).toBe(inMinutes(100));
    expect(seen.cuts).toMatchObject([{ from: inMinutes(100), isLater: true }]);
    expect((await problem(world.press([world.put(page, 'now')])))?.fields[0]?.path).toBe('changes[0].cutsLater');
    await world.press([world.put(page, 'now', null, null, true)]);
    expect((await problem(world.press([world.put(page, inMinutes(10), inMinutes(5))])))?.fields[0]).toEqual({
      code: 'ends-before-it-starts',
      params: {},
      path: 'changes[0].until',
      message: 'It must end after it starts.',
    });
  });

  it('refuse redirects that lead round or nowhere, and references across portfolios', async () => {
    const [a, b, foreign] = [
      await world.page('/ring-a'),
      await world.page('/ring-b'),
      await world.page('/theirs', { portfolio: world.two, site: 3 }),
    ];
    const to = (pageId: PageId): AnswerInput => ({ kind: 'redirect', status: 302, target: { kind: 'page', pageId } });
    const fields = async (change: ReleaseChange) =>
      (await problem(world.press([change])))?.fields.map(({ path }) => path);
    expect(await fields(world.put(a, 'now', inMinutes(10), to(a)))).toEqual(['changes[0].afterwards.target.pageId']);
    expect(await fields(world.put(a, 'now', inMinutes(10), to(foreign)))).toEqual([
      'changes[0].afterwards.target.pageId',
    ]);
    expect((await problem(world.press([world.put(a, 'now', inMinutes(10), to(b))])))?.message).toContain('is broken');
    await world.press([world.put(b, 'now', inMinutes(20))]);
    world.now = later(world.now, MINUTE);
    // Where it will lead nowhere later that is worth knowing, and does not block.
    const seen = await preview(world.context(), world.one, { changes: [world.put(a, 'now', inMinutes(10), to(b))] });
    expect(
      seen.findings.map(({ severity, message }) => [severity, message.replace(/ from .*/, ' from')]),
    ).toContainEqual(['worth-fixing', 'The redirect at one.example/ring-a to Page /ring-b is broken from']);
    await world.press([
      world.put(b, 'now', inMinutes(20), {
        kind: 'redirect',
        status: 301,
        target: { kind: 'outside', url: 'https://o.example/' },
      }),
    ]);
    world.now = later(world.now, MINUTE);
    await world.press([world.put(a, 'now', inMinutes(10), to(b))]);
    world.now = later(world.now, MINUTE);
    expect((await problem(world.press([world.put(b, 'now', inMinutes(20), to(a))])))?.message).toContain(
      'round in a circle',
    );
    await expect(
      world.database('revision_reference').insert({
        revision_id: ((await world.database('revision').where({ page_id: a }).first('id')) as { id: number }).id,
        portfolio_id: 1,
        page_id: foreign,
      }),
    ).rejects.toThrow('foreign key');
  });
});
