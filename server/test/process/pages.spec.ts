import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { PageId } from '@domatium/core/plan';
import { DAY, instant, later, MINUTE } from '@domatium/core/time';
import { Spool, queryOfKnex } from '@domatium/storage';
import type { VisitLine } from '@domatium/core/traffic';
import { problemOf } from '../../src/platform/http/problem.js';
import { draft, saveDraft } from '../../src/features/drafts/service.js';
import { addressCheck, history, newPage, rename, sheet } from '../../src/features/pages/service.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { rowOf, tableOf } from '@domatium/core/register';
import { differenceFile, givenAt } from '../../src/features/register/moments.js';
import { lines, register } from '../../src/features/register/service.js';
import { undo } from '../../src/heart/releases/index.js';
import { documentOf, World } from './harness.js';

let world: World;
let minute = 0;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
  minute = world.now;
});
const inMinutes = (n: number) => minute + n * MINUTE;
const refused = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: Error & { extra: { current?: unknown } }) => ({
      status: problemOf(error).status,
      message: error.message,
      extra: error.extra,
    }),
  );
const publish = (id: number) => publishReleases(world.publisher, world.one, [id as never]);
/** A page as the register shows it, read with all the others or by itself. */
const rowOfPage = async (id: number, only: PageId[] | null = null) => {
  const table = tableOf((await register(world.context(), world.one, only)).columns);
  const row = table.rowOfId.get(id);
  return row === undefined ? null : rowOf(table, row, world.now);
};
const versions = async () =>
  ((await world.database('host').orderBy('id').select('version')) as { version: number }[]).map(
    ({ version }) => version,
  );

describe('a page’s sheet', () => {
  it('tells past, now and ahead in words, with who else lies at the address', async () => {
    const [first, second] = [
      await world.page('/shared', { name: 'First' }),
      await world.page('/shared', { name: 'Second' }),
    ];
    await world.press([world.put(first, 'now', inMinutes(30), { kind: 'gone' })]);
    await world.press([
      world.put(second, inMinutes(60), inMinutes(90), {
        kind: 'redirect',
        status: 302,
        target: { kind: 'page', pageId: await live('/target') },
      }),
    ]);
    world.now = later(world.now, 40 * MINUTE);
    const lines = (await sheet(world.context(), world.one, first)).lines.map(({ words, from, until }) => [
      words,
      from,
      until,
    ]);
    expect(lines).toEqual([
      ['this page, revision 1', minute, inMinutes(30)],
      ['gone (410)', inMinutes(30), inMinutes(60)],
      ['Second, revision 1', inMinutes(60), inMinutes(90)],
      ['a redirect to one.example/target, 302', inMinutes(90), null],
    ]);
    expect((await sheet(world.context(), world.one, second)).lines.map(({ isThisPage }) => isThisPage)).toEqual([
      false,
      false,
      true,
      false,
    ]);
  });
  it('lists links both ways with what becomes of them', async () => {
    const target = await live('/linked');
    const from = await world.page('/from', { links: [target], name: 'From' });
    await world.press([world.put(from, 'now')]);
    world.now = later(world.now, MINUTE);
    await world.press([
      { act: 'take-off', pageId: target, from: world.wall(inMinutes(30)), until: null, afterwards: { kind: 'gone' } },
    ]);
    expect((await sheet(world.context(), world.one, from)).linksTo).toMatchObject([
      { pageId: target, note: expect.stringMatching(/^off from /) as unknown },
    ]);
    expect((await sheet(world.context(), world.one, target)).linkedFrom).toMatchObject([
      { name: 'From', note: expect.stringMatching(/^will still link here from .*, and lead nowhere$/) as unknown },
    ]);
  });
  it('shows a draft that differs, moves to come, and nothing of another portfolio', async () => {
    const page = await live('/moving');
    await world.rewrite(page, 'New words');
    await world.press([
      { act: 'move', pageId: page, at: world.wall(inMinutes(20)), siteId: 2, path: '/there', leaves: null },
    ]);
    expect(await sheet(world.context(), world.one, page)).toMatchObject({
      draftDiffers: true,
      latestRevision: 1,
      moves: [{ at: inMinutes(20), host: 'x.one.example', path: '/below/there' }],
    });
    expect((await refused(sheet(world.context('stranger'), world.two, page)))?.status).toBe(404);
  });
});

async function live(path: string) {
  const page = await world.page(path);
  await world.press([world.put(page, 'now')]);
  return page;
}

describe('the address while one types', () => {
  const words = async (path: string, pageId: number | null = null) =>
    (await addressCheck(world.context(), world.one, 1, path, pageId)).words;
  it('says who lies there, over time', async () => {
    const page = await world.page('/address', { name: 'Island pass 2027' });
    expect(await words('/address')).toBe('Free; Island pass 2027 lies here too, with nothing live or planned.');
    expect(await words('/address', page)).toBe('Free now and for everything planned.');
    await world.press([world.put(page, inMinutes(60), inMinutes(120))]);
    expect(await words('/Address/')).toMatch(/^Free today; from .* to .* it is Island pass 2027\.$/);
    await world.press([world.put(page, 'now', inMinutes(60))]);
    world.now = later(world.now, MINUTE);
    expect(await words('/address')).toMatch(/^Today it is Island pass 2027 to .*; from .* it is Island pass 2027\.$/);
    expect(await words('/--')).toContain('letter or digit');
    expect((await addressCheck(world.context(), world.one, 1, '/address', null)).isFreeNow).toBe(false);
  });
  it('does not name another portfolio’s pages, nor its sites', async () =>
    expect((await refused(addressCheck(world.context(), world.one, 3, '/x', null)))?.status).toBe(422));
});

describe('pages', () => {
  it('are made from a start, with a path of their own and no trace for visitors', async () => {
    const { id } = await newPage(world.context(), world.one, {
      siteId: 2,
      start: 'event',
      name: 'Pier talk',
      path: '/Pier Talk'.replace(' ', '-'),
    });
    expect(await draft(world.context(), world.one, id)).toMatchObject({
      version: 1,
      host: 'x.one.example',
      path: '/below/pier-talk',
      latestRevision: null,
    });
    expect(await rowOfPage(id)).toMatchObject({ periods: [], visits: 0, visitsBefore: 0, path: '/below/pier-talk' });
    const audit = (await world.database('audit').where({ object: 'page', object_id: id }).select('act')) as {
      act: string;
    }[];
    expect(audit.map(({ act }) => act)).toEqual(['new-page']);
  });
  it('are renamed by the one who saw the newest version; the other is told the name it has', async () => {
    const page = await world.page('/names');
    expect(await rename(world.context(), world.one, page, 'Better', 1)).toEqual({ version: 2 });
    expect(await refused(rename(world.context('second'), world.one, page, 'Other', 1))).toMatchObject({
      status: 412,
      extra: { current: { name: 'Better', version: 2 } },
    });
  });
  it('keep a history with who did what, and why something can’t be undone', async () => {
    const page = await live('/history');
    world.now = later(world.now, MINUTE);
    const { id } = await world.press(
      [{ act: 'move', pageId: page, at: 'now', siteId: 1, path: '/history-2', leaves: null }],
      'second',
    );
    world.now = later(world.now, MINUTE);
    const entries = await history(world.context(), world.one, page);
    expect(entries.map(({ act, by, undoRefusal }) => [act, by, undoRefusal?.slice(0, 14) ?? null])).toEqual([
      ['move', 'second', null],
      ['release', 'owner', 'Can’t be undon'],
    ]);
    await undo(world.context(), world.one, id, 'history-undo');
    expect(
      (await history(world.context(), world.one, page)).map(({ act, undoneBy, undoes }) => [
        act,
        undoneBy !== null,
        undoes !== null,
      ]),
    ).toEqual([
      ['undo', false, true],
      ['move', true, false],
      ['release', false, false],
    ]);
  });
  it('keep drafts by version: two at once, and one is told', async () => {
    const page = await world.page('/drafts');
    const results = await Promise.allSettled([
      saveDraft(world.context(), world.one, page, 1, documentOf('Mine')),
      saveDraft(world.context('second'), world.one, page, 1, documentOf('Theirs')),
    ]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect((await draft(world.context(), world.one, page)).version).toBe(2);
  });
});

describe('the register', () => {
  it('shows where pages lie now, their periods by revision, and visits against the days before', async () => {
    const page = await live('/figures');
    await world.rewrite(page, 'Second');
    await world.press([
      world.put(page, inMinutes(30), inMinutes(60), {
        kind: 'redirect',
        status: 302,
        target: { kind: 'outside', url: 'https://o.example/' },
      }),
    ]);
    const day = (ahead: number) => new Date(world.now + ahead * DAY).toISOString().slice(0, 10);
    const line = (ahead: number, visitors: string[], extra: Partial<VisitLine> = {}): VisitLine => ({
      day: day(ahead),
      portfolioId: 1,
      host: 'one.example',
      path: '/figures',
      outcome: 'page',
      pageId: page,
      isBot: false,
      count: 9,
      visitors,
      ...extra,
    });
    const spool = new Spool(`${world.folder}/spool`, 'edge-test');
    await spool.append([
      line(0, ['a', 'b']),
      line(0, ['b', 'c']),
      line(-29, ['a']),
      line(-30, ['a', 'b']),
      line(-60, ['z']),
      line(0, [], { isBot: true }),
      line(0, [], { outcome: 'redirect' }),
    ]);
    await spool.close();
    await spool.ship((work) => world.database.transaction((trx) => work(queryOfKnex(trx))));
    const row = await rowOfPage(page);
    expect(row).toMatchObject({
      redirectsAfter: true,
      visits: 4,
      visitsBefore: 2,
      periods: [
        { revision: 1, until: inMinutes(30) },
        { revision: 2, from: inMinutes(30), until: inMinutes(60) },
      ],
    });
    expect(await rowOfPage(page, [page])).toEqual(row);
    const [[, daily] = []] = await lines(world.context(), world.one, [page]);
    expect([daily?.length, daily?.[0], daily?.at(-1)]).toEqual([30, 1, 3]);
    expect((await sheet(world.context(), world.one, page)).visits).toEqual({ current: 4, before: 2, change: 1 });
  });
});

describe('two moments', () => {
  it('are told apart as CSV, with what visitors get instead, and formulas are no formulas', async () => {
    const target = await live('/target-of-two');
    const [goes, comes] = [await live('/goes'), await world.page('/comes', { name: '=SUM(A1)' })];
    const redirect = { kind: 'redirect', status: 302, target: { kind: 'page', pageId: target } } as const;
    world.now = later(world.now, MINUTE);
    await world.press([
      { act: 'take-off', pageId: goes, from: world.wall(inMinutes(30)), until: null, afterwards: redirect },
      world.put(comes, inMinutes(40)),
    ]);
    const then = later(world.now, 50 * MINUTE);
    expect([...(await givenAt(world.context(), world.one, [goes, comes], then))]).toEqual([
      [goes, 'a redirect to one.example/target-of-two, 302'],
      [comes, '=SUM(A1), revision 1'],
    ]);
    const file = await differenceFile(world.context(), world.one, null, [then, world.now]);
    const [head, ...rows] = file.trimEnd().split('\r\n');
    expect(head).toBe('when,what,page,address before,address after,revision before,revision after,instead');
    expect(rows).toHaveLength(2);
    expect(rows[0]).toMatch(/comes off,.*one\.example\/goes.*"a redirect to one\.example\/target-of-two, 302"$/);
    expect(rows[1]).toContain("goes live,'=SUM(A1),");
  });
});

describe('publishing', () => {
  it('writes nothing where nothing changed, and leaves the past of routes as it was served', async () => {
    const page = await world.page('/routes');
    const { id } = await world.press([world.put(page, 'now')]);
    await publish(id);
    const before = await versions();
    await world.database('release').where({ id }).update({ published_at: null });
    await publish(id);
    expect(await versions()).toEqual(before);
    world.now = later(world.now, 10 * MINUTE);
    await world.rewrite(page, 'Second words');
    const { id: next, at } = await world.press([world.put(page, 'now')]);
    await publish(next);
    const rows = (await world
      .database('route')
      .where({ page_id: page })
      .orderBy('from_at')
      .select('from_at', 'until_at', 'artifact')) as { from_at: number; until_at: number | null; artifact: string }[];
    expect(rows.map(({ from_at, until_at }) => [from_at, until_at])).toEqual([
      [minute, at],
      [at, null],
    ]);
    expect(rows[0]?.artifact).not.toBe(rows[1]?.artifact);
    const after = await versions();
    expect(after.map((version, index) => version - (before[index] ?? 0)).filter(Boolean)).toEqual([1]);
  });
  it('splits a page where a link it has comes to lead elsewhere, and finds equal renders again', async () => {
    const target = await live('/split-target');
    const page = await world.page('/split', { links: [target] });
    const { id: first } = await world.press([world.put(page, 'now')]);
    await publish(first);
    const { id } = await world.press([
      { act: 'move', pageId: target, at: world.wall(inMinutes(30)), siteId: 1, path: '/split-moved', leaves: null },
    ]);
    await publish(id);
    const { id: last } = await world.press([
      { act: 'move', pageId: target, at: world.wall(inMinutes(60)), siteId: 1, path: '/split-target', leaves: null },
    ]);
    await publish(last);
    const rows = (await world
      .database('route')
      .where({ page_id: page })
      .orderBy('from_at')
      .select('until_at', 'artifact')) as { until_at: number | null; artifact: string }[];
    expect(rows.map(({ until_at }) => until_at)).toEqual([inMinutes(30), inMinutes(60), null]);
    expect(rows[0]?.artifact).toBe(rows[2]?.artifact);
    expect(rows[0]?.artifact).not.toBe(rows[1]?.artifact);
  });
  it('keeps a site on the portfolio’s own host out of search, and others in', async () => {
    const own = (await world.database('host').where({ name: 'one.domatium.example' }).first('id')) as { id: number };
    const [site] = (await world
      .database('site')
      .insert({ portfolio_id: 1, name: 'Trial', brand: 'Trial', theme: 'ferry' })
      .returning('id')) as { id: number }[];
    await world.database.transaction(async (trx) => {
      await trx.raw("SELECT set_config('domatium.instant', '1970-01-01', true)");
      await trx('site_address').insert({
        portfolio_id: 1,
        site_id: site?.id,
        host_id: own.id,
        base_path: '/trial',
        is_primary: true,
        from_at: new Date(0),
      });
    });
    const shown = async (path: string, siteId: number) => {
      const page = await world.page(path, { site: siteId });
      const { id } = await world.press([world.put(page, 'now')]);
      await publish(id);
      return world.served(page);
    };
    expect(await shown('/hidden', site?.id ?? 0)).toContain('<meta name="robots" content="noindex">');
    const found = await shown('/found', 1);
    expect(found).not.toContain('noindex');
    expect(found).toContain('<link rel="canonical" href="http://one.example.localhost:');
  });
});

it('tells the time of a release that shares its millisecond with another as the next one (rule 5)', async () => {
  world.now = instant(world.now + 500);
  const pages = await Promise.all(['/tick-1', '/tick-2', '/tick-3'].map((path) => world.page(path)));
  const times = [];
  for (const page of pages) times.push((await world.press([world.put(page, 'now')])).at);
  expect(times).toEqual([world.now, world.now + 1, world.now + 2]);
});
