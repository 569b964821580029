import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import { resolve } from '@domatium/core/routing';
import { DAY, instant, later, MINUTE } from '@domatium/core/time';
import { addressCheck, newPage, sheet } from '../../src/features/pages/service.js';
import { deletePages } from '../../src/features/pages/delete.js';
import { seen } from '../../src/features/pages/seen.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import { setInstant } from '../../src/platform/database/context.js';
import { undo } from '../../src/heart/releases/index.js';
import { register } from '../../src/features/register/index.js';
import { doAll } from '../../src/platform/work/index.js';
import { keepVerification, verifyHere, verifyPortfolio, verifyWork } from '../../src/features/verify/index.js';
import { World } from './harness.js';

let world: World;
let minute = 0;
let count = 0;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
  minute = Math.ceil(world.now / MINUTE) * MINUTE;
  count++;
});

const GONE: AnswerInput = { kind: 'gone' };
const to = (pageId: PageId): AnswerInput => ({ kind: 'redirect', status: 301, target: { kind: 'page', pageId } });
const out = (url: string): AnswerInput => ({ kind: 'redirect', status: 301, target: { kind: 'outside', url } });
const inMinutes = (n: number) => minute + n * MINUTE;
const tick = () => void (world.now = later(world.now, MINUTE));
const path = (name: string) => `/r${count}-${name}`;
const off = (pageId: PageId, afterwards: AnswerInput, from: number | 'now' = 'now'): ReleaseChange => ({
  ...{ act: 'take-off', pageId, until: null, afterwards },
  from: from === 'now' ? 'now' : world.wall(from),
});
const move = (pageId: PageId, at: number | 'now', place: string, siteId = 1): ReleaseChange => ({
  ...{ act: 'move', pageId, siteId, path: place, leaves: null },
  at: at === 'now' ? 'now' : world.wall(at),
});
const press = async (...changes: ReleaseChange[]) => {
  const done = await world.press(changes);
  tick();
  return done;
};
const refusal = async (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: { message: string; extra?: { fields?: { path: string; message: string }[] } }) =>
      [error.message, ...(error.extra?.fields ?? []).map((field) => `${field.path}: ${field.message}`)].join('\n'),
  );
/** What a visitor of the first site gets, from the routes as an edge has them. */
async function given(place: string, at: number = world.now): Promise<string> {
  await world.publish();
  const got = resolve(await world.routes(), { host: 'one.example', path: place }, instant(at));
  if (got.kind === 'page') return `page ${got.pageId}`;
  if (got.kind !== 'redirect') return got.kind;
  return got.to.kind === 'outside' ? got.to.url : `${got.to.path}${got.to.rest}`;
}
const live = async (name: string) => {
  const id = await world.page(path(name));
  await press(world.put(id, 'now'));
  return id;
};

describe('where a redirect by reference leads', () => {
  it('is known to the edge also of a page that was never released, at whose address another one is live', async () => {
    const [x, z] = [await live('x'), await live('y')];
    const y = await world.page(path('y'));
    await press(off(x, to(y)));
    expect(await given(path('x'))).toBe(path('y'));
    expect(await given(path('y'))).toBe(`page ${z}`);
  });

  it('is followed through addresses of our own that are written out, with what they bring', async () => {
    const [x, y] = [await live('from'), await live('target')];
    await press(off(x, out(`https://one.example${path('target')}?from=poster#top`)));
    expect(await given(path('from'))).toBe(`${path('target')}?from=poster#top`);
    await press(move(y, 'now', path('moved')));
    expect(await given(path('from'))).toBe(`${path('moved')}?from=poster#top`);
    const circle = await refusal(world.press([off(y, out(`http://one.example.localhost:4781${path('from')}`))]));
    expect(circle).toContain('round in a circle');
  });
});

describe('a live page', () => {
  it('with a planned move can be taken off, put in the bin and shortened; moved back at that minute it just stays', async () => {
    const page = await live('planned');
    await press(move(page, inMinutes(30), path('later')));
    for (const change of [
      off(page, GONE),
      { act: 'bin', pageId: page, afterwards: { kind: 'not-found' } } as const,
      world.put(page, 'now', inMinutes(10), GONE),
    ]) {
      const { findings, faults } = await preview(world.context(), world.one, { changes: [change] });
      expect([...faults, ...findings.filter(({ severity }) => severity === 'blocks')]).toEqual([]);
    }
    await press(move(page, inMinutes(30), path('planned')));
    expect((await sheet(world.context(), world.one, page)).moves).toEqual([]);
    await press(move(page, inMinutes(30), path('later')));
    await press(off(page, GONE));
    expect(await given(path('planned'), inMinutes(40))).toBe('gone');
  });

  it('with a planned end can be moved; its old address gives what its own gives then', async () => {
    const page = await world.page(path('ends'));
    await press(world.put(page, 'now', inMinutes(50), GONE));
    await press(move(page, inMinutes(20), path('went')));
    expect(await given(path('ends'), inMinutes(30))).toBe(path('went'));
    expect(await given(path('ends'), inMinutes(60))).toBe('gone');
    expect(await given(path('went'), inMinutes(60))).toBe('gone');
  });

  it('leaves its old address to a redirect in whatever order a move was planned', async () => {
    const earlier = await live('first');
    await press(move(earlier, inMinutes(40), path('third')));
    await press(move(earlier, inMinutes(20), path('second')));
    expect(await given(path('second'), inMinutes(45))).toBe(path('third'));

    const draft = await world.page(path('draft'));
    await press(move(draft, inMinutes(40), path('draft-2')));
    await press(world.put(draft, 'now'));
    expect(await given(path('draft'), inMinutes(45))).toBe(path('draft-2'));

    const shifted = await world.page(path('shift'));
    await press(world.put(shifted, minute + 3 * DAY));
    await press(move(shifted, minute + 2 * DAY, path('shift-2')));
    await press({ act: 'shift', pageId: shifted, days: -2 });
    expect(await given(path('shift'), minute + 2 * DAY + MINUTE)).toBe(path('shift-2'));
  });

  it('takes what its end leaves to where it ends: by a shift over a move, and when it is said later', async () => {
    const page = await world.page(path('over'));
    await press(world.put(page, 'now', minute + 2 * DAY, GONE));
    await press(move(page, minute + 3 * DAY, path('over-2')));
    await press({ act: 'shift', pageId: page, days: 2 });
    expect(await given(path('over-2'), minute + 4 * DAY + MINUTE)).toBe('gone');
    // Its old address leads to it, and gives the same.
    expect(await given(path('over'), minute + 4 * DAY + MINUTE)).toBe('gone');

    const ended = await world.page(path('ended'));
    await press(world.put(ended, 'now', inMinutes(30), GONE));
    world.now = instant(inMinutes(31));
    await press(move(ended, 'now', path('ended-2')));
    const target = await live('instead');
    await press({ act: 'afterwards', pageId: ended, afterwards: to(target) });
    expect(await given(path('ended'))).toBe(path('instead'));
    expect(await given(path('ended-2'))).toBe(path('instead'));
  });

  it('is shifted past a move that stays where it is', async () => {
    const page = await world.page(path('ahead'));
    await press(world.put(page, 'now', minute + 13 * DAY, GONE));
    await press(move(page, minute + 2 * DAY, path('ahead-2')));
    expect(await refusal(press({ act: 'shift', pageId: page, days: -2 }))).toBeNull();
  });
});

describe('dead ends and circles', () => {
  it('of another page at the same address block nothing, and each finding names the page that makes it', async () => {
    const dead = await live('dead');
    const old = await live('shared');
    await press(off(old, to(dead)));
    await press(off(dead, GONE));
    const page = await world.page(path('shared'));
    const other = await live('other');
    const change = world.put(page, inMinutes(20), inMinutes(40), to(other));
    const seenThen = await preview(world.context(), world.one, { changes: [change] });
    expect(seenThen.findings.filter(({ severity }) => severity === 'blocks')).toEqual([]);

    const [a, b] = [await live('a'), await live('b')];
    const draft = await world.page(path('nowhere'));
    const many = await preview(world.context(), world.one, { changes: [off(a, GONE), off(b, to(draft))] });
    expect(many.findings.map(({ check, pageId, severity }) => [check, pageId, severity])).toEqual([
      ['redirects', b, 'blocks'],
    ]);
  });

  it('are refused to the second of two people who close a circle on two hosts at the same moment', async () => {
    for (let round = 0; round < 6; round++) {
      const [x, y] = [await world.page(path(`cx${round}`)), await world.page(path(`cy${round}`), { site: 2 })];
      await press(world.put(x, 'now'), world.put(y, 'now'));
      const both = await Promise.all([
        refusal(world.press([off(x, to(y))], 'owner')),
        refusal(world.press([off(y, to(x))], 'second')),
      ]);
      expect(both.filter((one) => one === null)).toHaveLength(1);
      expect(both.find((one) => one !== null)).toContain('leads round in a circle');
      tick();
    }
  });

  it('hold up nobody whose press leads elsewhere', async () => {
    const [x, far] = [await live('alone'), await world.page(path('far'), { site: 2 })];
    await press(world.put(far, 'now'));
    const [{ id: host }] = (await world.database('host').where({ name: 'x.one.example' }).select('id')) as [
      { id: number },
    ];
    const holder = await world.database.transaction();
    await holder.raw('SELECT id FROM host WHERE id = ? FOR NO KEY UPDATE', [host]);
    await press(off(x, GONE));
    let isDecided = false;
    const waiting = world.press([off(x, to(far))]).then(() => (isDecided = true));
    await new Promise((done) => setTimeout(done, 400));
    expect(isDecided).toBe(false);
    await holder.commit();
    expect(await waiting).toBe(true);
  });

  it('are not made by an undo', async () => {
    const [x, y] = [await live('ux'), await live('uy')];
    await press(off(x, to(y)));
    const { id } = await press(world.put(x, 'now'));
    await press(off(y, to(x)));
    expect(await refusal(undo(world.context(), world.one, id, `undo-circle-${count}`))).toContain('round in a circle');
  });
});

describe('a release', () => {
  it('changes a page once', async () => {
    const page = await live('once');
    const bin: ReleaseChange = { act: 'bin', pageId: page, afterwards: { kind: 'not-found' } };
    const shift: ReleaseChange = { act: 'shift', pageId: page, days: 1 };
    for (const changes of [
      [bin, world.put(page, 'now')],
      [bin, bin],
      [shift, shift],
    ])
      expect(await refusal(world.press(changes))).toContain('a release changes each page once');
  });

  it('plans to the end of 2199 and no further, with whole addresses of 1,024 bytes', async () => {
    const page = await world.page(path('far'));
    await press(world.put(page, minute + 100 * DAY));
    await press({ act: 'shift', pageId: page, days: 3650 });
    for (let n = 0; n < 16; n++) await press({ act: 'shift', pageId: page, days: 3650 });
    expect(await refusal(world.press([{ act: 'shift', pageId: page, days: 3650 }]))).toContain('31 December 2199');
    const long = `/${Array.from({ length: 6 }, () => 'a'.repeat(169)).join('/')}`;
    expect(long.length).toBeGreaterThan(1_017);
    expect(long.length).toBeLessThanOrEqual(1_024);
    const made = { siteId: 2, start: 'blank', name: 'Long', path: long } as const;
    expect(await refusal(newPage(world.context(), world.one, made))).toContain('with /below, at most 1,024');
    expect((await addressCheck(world.context(), world.one, 2, long, null)).words).toContain('at most 1,024');
    expect(await refusal(world.press([move(page, 'now', long, 2)]))).toContain('at most 1,024');
  });

  it('says of the hour that clocks skip before the press what it makes of it', async () => {
    const page = await world.page(path('clocks'));
    const at = (day: string) => ({ local: `2027-03-${day}`, zone: 'Europe/Oslo' });
    const [first, second] = [at('21T01:00'), at('21T02:30')];
    await press({ ...world.put(page, 'now'), from: first, until: second, afterwards: GONE } as ReleaseChange);
    await press({ ...world.put(page, 'now'), from: at('21T03:00') } as ReleaseChange);
    const { faults } = await preview(world.context(), world.one, {
      changes: [{ act: 'shift', pageId: page, days: 7 }],
    });
    expect(faults.map(({ path: field }) => field)).toEqual(['changes[0].days']);
    expect(faults[0]?.message).toContain('Clocks skip an hour');
    expect(faults[0]?.message).toContain('03:30');
  });

  it('tells where an older revision returns, and of a cut no more than what is cut', async () => {
    const page = await world.page(path('back'));
    await press(world.put(page, 'now', inMinutes(50), GONE));
    await world.rewrite(page, 'Newer');
    const back: ReleaseChange = { ...world.put(page, inMinutes(10), inMinutes(20)), afterwards: null } as ReleaseChange;
    const { lines } = await preview(world.context(), world.one, { changes: [back] });
    expect(lines.map(({ at, isWarning }) => [at, isWarning])).toEqual([
      [inMinutes(10), false],
      [inMinutes(20), true],
    ]);
    expect(lines[1]?.words).toContain('an older revision returns');
    const later_ = await world.page(path('tail'));
    await press(world.put(later_, inMinutes(30), inMinutes(50), GONE));
    await world.rewrite(later_, 'Newer');
    const over: ReleaseChange = {
      ...world.put(later_, inMinutes(25), inMinutes(40)),
      afterwards: null,
    } as ReleaseChange;
    const { cuts } = await preview(world.context(), world.one, { changes: [over] });
    expect(cuts.map(({ from, until }) => [from, until])).toEqual([[inMinutes(30), inMinutes(40)]]);
  });
});

describe('what is kept', () => {
  it('as of a moment is what edges served, whichever page was late', async () => {
    const [a, b] = [await live('seen'), await world.page(path('seen'))];
    await world.publish();
    await world.database('release').update({ out_at: new Date(world.now) });
    tick();
    const { id, at: pressed } = await world.press([off(a, GONE), world.put(b, 'now')]);
    const at = instant(pressed);
    const wasOut = later(at, 5 * MINUTE);
    await world.publish();
    await world
      .database('release')
      .where({ id })
      .update({ out_at: new Date(wasOut) });
    world.now = later(at, 20 * MINUTE);
    for (const page of [a, b]) {
      const late = await seen(world.context(), world.one, page, later(at, MINUTE));
      expect(late).toMatchObject({ isLate: true, outAt: wasOut, isPage: true });
      expect(late.words).toContain(`Page ${path('seen')}, revision 1`);
      expect((await seen(world.context(), world.one, page, later(at, 6 * MINUTE))).isLate).toBe(false);
    }
  });

  it('is never deleted for ever while visitors get it, also where it is in the bin all the same', async () => {
    const page = await live('kept');
    const { id } = await press({ act: 'bin', pageId: page, afterwards: GONE });
    await world.database.transaction(async (trx) => {
      await trx.raw("SELECT set_config('domatium.instant', ?, true)", [new Date(world.now).toISOString()]);
      const [{ revision_id }] = (await trx('period').where({ page_id: page }).select('revision_id')) as [
        { revision_id: number },
      ];
      await trx('period').insert({
        ...{ id: 9_000_000 + count, portfolio_id: 1, page_id: page, revision_id, release_id: id },
        from_at: new Date(inMinutes(30)),
      });
    });
    expect(await refusal(deletePages(world.context(), world.one, [page], `Page ${path('kept')}`))).toContain(
      'Take it off',
    );
    await world.database.transaction(async (trx) => {
      await trx.raw("SELECT set_config('domatium.instant', ?, true)", [new Date(world.now).toISOString()]);
      await trx('period')
        .where({ id: 9_000_000 + count })
        .delete();
    });
    expect(await deletePages(world.context(), world.one, [page], `Page ${path('kept')}`)).toEqual({ deleted: 1 });
  });

  it('of a later release goes out with all of it, or not at all', async () => {
    const [a, b] = [await live('half-a'), await live('half-b')];
    await world.publish();
    const first = await press(off(a, GONE));
    // Decided later, not published yet: it puts b where a was, and leaves the address b had.
    const second = await press(move(b, 'now', path('half-a')));
    const place = async (name: string) => {
      const got = resolve(await world.routes(), { host: 'one.example', path: path(name) }, world.now);
      return got.kind;
    };
    await publishReleases(world.publisher, world.one, [first.id as ReleaseId], true);
    expect([await place('half-a'), await place('half-b')]).toEqual(['gone', 'page']);
    await publishReleases(world.publisher, world.one, [second.id as ReleaseId], true);
    expect([await place('half-a'), await place('half-b')]).toEqual(['page', 'redirect']);
  });

  it('is what is derived, and the verifier says where anything is not', async () => {
    await world.publish();
    const { database, style, ...shared } = world.publisher;
    const parts = { database, style, clock: () => world.now, shared };
    const whole = await verifyPortfolio(parts, world.one);
    expect(whole.differences).toEqual([]);
    expect(whole.checked.claims).toBeGreaterThan(40);
    expect(whole.checked.frames).toBeGreaterThan(1);
    const kinds = async (break_: string, ...mend: string[]) => {
      const trx = async (sql: string) =>
        world.database.transaction(async (db) => {
          await db.raw("SELECT set_config('domatium.instant', '1900-01-01Z', true)");
          await db.raw(sql);
        });
      await trx(break_);
      const found = await verifyPortfolio(parts, world.one);
      for (const sql of mend) await trx(sql);
      return [...new Set(found.differences.map(({ kind }) => kind))];
    };
    const last = (table: string) => `(SELECT max(id) FROM ${table} WHERE portfolio_id = 1)`;
    await world.database.raw(
      'CREATE TABLE kept_claim AS SELECT * FROM claim; CREATE TABLE kept_place AS SELECT * FROM page_route',
    );
    expect(await kinds(`UPDATE claim SET source_id = source_id + 1 WHERE id = ${last('claim')}`)).toEqual(['claim']);
    await kinds(`UPDATE claim SET source_id = source_id - 1 WHERE id = ${last('claim')}`);
    expect(
      await kinds(
        `UPDATE route SET path = path || '-' WHERE id = ${last('route')}`,
        `UPDATE route SET path = left(path, -1) WHERE id = ${last('route')}`,
      ),
    ).toEqual(['route']);
    expect(
      await kinds(
        'DELETE FROM page_route WHERE page_id IN (SELECT target_page_id FROM route)',
        'TRUNCATE page_route; INSERT INTO page_route SELECT * FROM kept_place',
      ),
    ).toEqual(['place']);
    await world.database.raw('CREATE TABLE kept_stretch AS SELECT * FROM frame_stretch');
    const head = '(SELECT max(head) FROM frame_place WHERE portfolio_id = 1)';
    expect(
      await kinds(
        `UPDATE frame_stretch SET parts = '{}' WHERE line_id = ${head}`,
        'UPDATE frame_stretch s SET parts = k.parts FROM kept_stretch k WHERE k.id = s.id',
      ),
    ).toEqual(['frame']);
    expect((await verifyPortfolio(parts, world.one)).differences).toEqual([]);
  });

  it('stands in the register as an alarm where the last verification found anything', async () => {
    const alarm = async () => (await register(world.context(), world.one)).unverified;
    const parts = { database: world.database, style: world.publisher.style, clock: () => world.now };
    const found = await verifyPortfolio(parts, world.one);
    const difference = { kind: 'route', address: 'http://one.example/x', words: 'routed, but not claimed' } as const;
    await keepVerification(world.database, { ...found, differences: [difference] });
    expect(await alarm()).toMatchObject({ count: 1, first: ['http://one.example/x: routed, but not claimed'] });
    tick();
    // Once a day, whoever was not verified since: today they were.
    await doAll([verifyWork(parts, verifyHere(parts))]);
    expect((await alarm())?.count).toBe(1);
    world.now = later(world.now, DAY + MINUTE);
    await doAll([verifyWork(parts, verifyHere(parts))]);
    expect(await alarm()).toBeNull();
  });
});

describe('an exact redirect', () => {
  it('has its own input: pages come and go at its address, and no release takes its claim', async () => {
    const place = path('printed');
    const [page, target] = [await world.page(path('elsewhere')), await world.page(path('target'))];
    await press(world.put(page, 'now'), world.put(target, 'now'));
    await world.database.transaction(async (trx) => {
      await setInstant(trx, world.now);
      await trx.raw(
        `INSERT INTO statement (id, portfolio_id, kind, host_id, path, rank, ordinal, from_at, answer, target_page_id, status)
         SELECT nextval('plan_row_id'), 1, 'exact', h.id, ?, ?, nextval('plan_row_id'), ?, 'redirect', ?, 301 FROM host h WHERE h.name = 'one.example'`,
        [place, new Date(inMinutes(5)), new Date(inMinutes(5)), target],
      );
    });
    tick();
    // A release at its address derives its claim too; while the page lies there, the page is on top.
    await press(move(page, inMinutes(20), place));
    const claims = async () =>
      (await world
        .database('claim')
        .join('address', 'address.id', 'claim.address_id')
        .where({ path: place })
        .select('layer', 'claim.page_id')) as {
        layer: string;
        page_id: number | null;
      }[];
    expect((await claims()).filter(({ page_id }) => page_id === null)).toEqual([{ layer: 'after', page_id: null }]);
    expect([await given(place, inMinutes(6)), await given(place, inMinutes(25))]).toEqual([
      expect.stringContaining(path('target')),
      `page ${page}`,
    ]);
    // The page goes on: what its move leaves starts later, and holds; taken back, the exact one holds again.
    world.now = instant(inMinutes(30));
    const { id } = await press(move(page, 'now', path('further')));
    expect(await given(place)).toContain(path('further'));
    await undo(world.context(), world.one, id, 'back-to-exact');
    tick();
    await press(off(page, GONE));
    expect(await given(place)).toBe('gone');
    await press({ act: 'bin', pageId: page, afterwards: GONE });
    expect((await claims()).filter(({ page_id }) => page_id === null).length).toBeGreaterThan(0);
    await world.publish();
    const parts = { database: world.database, style: world.publisher.style, clock: () => world.now };
    const { differences } = await verifyPortfolio(parts, world.one);
    expect(differences).toEqual([]);
  });
});
