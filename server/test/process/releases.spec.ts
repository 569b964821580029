import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { canonical, type Claim, type PageId } from '@domatium/core/plan';
import { resolve } from '@domatium/core/routing';
import { instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { problemOf } from '../../src/platform/http/problem.js';
import { claimsOfNeighbourhood, claimsAt, neighbourhoodOf } from '../../src/heart/plans/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import { undo } from '../../src/heart/releases/index.js';
import { World } from './harness.js';

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
const bodyOf = async (artifact: string | null) =>
  (await world.publisher.blobs.read('pages', artifact ?? ''))?.toString('latin1') ?? '';

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
