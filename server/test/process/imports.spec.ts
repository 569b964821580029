import { afterAll, beforeAll, beforeEach, expect, it } from '@jest/globals';
import { IMPORT_FIELDS, type ImportRow, type ReleaseChange } from '@domatium/contracts';
import { rowOf, tableOf } from '@domatium/core/register';
import { later, MINUTE, wallOf } from '@domatium/core/time';
import { guessFields } from '@domatium/core/exchange';
import { exported } from '../../src/features/views/service.js';
import { importPreview, importRows } from '../../src/features/imports/service.js';
import { register } from '../../src/features/register/service.js';
import { pageState, pageStates } from '../../src/features/drafts/states.js';
import { World, ZONE } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());
beforeEach(() => {
  world.now = later(world.now, 60 * MINUTE);
});

const row = (line: number, cells: Partial<Record<(typeof IMPORT_FIELDS)[number], string>>): ImportRow => ({
  line,
  ...(Object.fromEntries(IMPORT_FIELDS.map((field) => [field, ''])) as Record<(typeof IMPORT_FIELDS)[number], string>),
  ...cells,
});
const local = (minutes: number) => wallOf(later(world.now, minutes * MINUTE), ZONE).replace('T', ' ');
async function pages() {
  const table = tableOf((await register(world.context(), world.one)).columns);
  return [...table.columns.ids.keys()].map((index) => rowOf(table, index, world.now));
}

it('names what is wrong with each row, tries the rest, and leaves nothing of the trial', async () => {
  await world.page('/there', { name: 'There' });
  const taken = await world.page('/taken', { name: 'Taken' });
  await world.press([world.put(taken, 'now')]);
  const before = await pages();
  const { rows } = await importPreview(world.context(), world.one, [
    row(2, { name: 'New', site: 'site', path: '/new', from: local(30), until: local(60), labels: 'a; b' }),
    row(3, { path: 'https://one.example/there/', name: 'Renamed', title: 'Another title' }),
    row(4, { site: 'Nowhere', name: 'x', path: '/x' }),
    row(5, { site: 'Site', name: 'Twice', path: 'new' }),
    row(6, { site: 'Site', path: '/unnamed' }),
    row(7, { site: 'Site', name: 'Ends first', path: '/e', from: local(60), until: local(30) }),
    row(8, { site: 'Site', name: 'Past', path: '/p', from: local(-30) }),
    row(9, { site: 'Site', name: 'Bad', path: '/b%2fc', campaign: 'None such' }),
    row(10, { site: 'Site', path: '/there' }),
  ]);
  const told = rows.map(({ line, act, errors }) => [line, act, errors.map(({ field }) => field).join()]);
  expect(told).toEqual([
    [2, 'create', ''],
    [3, 'change', ''],
    [4, 'wrong', 'site'],
    [5, 'wrong', 'path'],
    [6, 'wrong', 'name'],
    [7, 'wrong', 'until'],
    [8, 'wrong', 'from'],
    [9, 'wrong', 'path,campaign'],
    [10, 'wrong', 'path'],
  ]);
  expect(rows[1]?.words).toEqual(['renamed from “There”', 'Title changed in the draft']);
  expect(await pages()).toEqual(before);
});

it('takes a list that was brought out as it is: nothing changes, and a cell that is changed changes that alone', async () => {
  const [live, planned, over] = [
    await world.page('/csv-live', { name: '=Live, with a comma' }),
    await world.page('/csv-planned', { name: 'Planned' }),
    await world.page('/csv-over', { name: 'Over' }),
  ];
  await world.press([world.put(live, 'now')]);
  await world.press([world.put(planned, Math.ceil(later(world.now, 90 * MINUTE) / MINUTE) * MINUTE)]);
  await world.press([world.put(over, 'now', later(world.now, MINUTE))]);
  world.now = later(world.now, 20 * MINUTE);
  const brought = async () => {
    const cells: Record<string, string>[] = [];
    for await (const one of exported(world.context(), world.one, {}, world.now))
      cells.push(Object.fromEntries(Object.entries(one).map(([key, value]) => [key, String(value)])));
    return cells;
  };
  const before = await brought();
  const rowsOf = (list: readonly Record<string, string>[]) => {
    const fields = guessFields(Object.keys(list[0] ?? {}));
    return list.map((cells, index) =>
      row(
        index + 2,
        Object.fromEntries(Object.values(cells).flatMap((cell, n) => (fields[n] ? [[fields[n], cell]] : []))),
      ),
    );
  };
  const told = (await importPreview(world.context(), world.one, rowsOf(before))).rows;
  expect(told.filter(({ act }) => act !== 'same')).toEqual([]);
  const releases = () => world.database('release').count('id as n').first();
  const count = await releases();
  expect((await importRows(world.context(), world.one, rowsOf(before), 'csv-back-1')).releaseId).toBeNull();
  expect([await brought(), await releases()]).toEqual([before, count]);
  // An end that is typed gives the running period that end; another id or address makes no page.
  const changed = before.map((cells) =>
    cells['id'] === String(live) ? { ...cells, until: local(600), owner: 'author' } : cells,
  );
  const [change, ...others] = (await importPreview(world.context(), world.one, rowsOf(changed))).rows.filter(
    ({ act }) => act !== 'same',
  );
  expect([change?.act, change?.name, others]).toEqual(['change', '=Live, with a comma', []]);
  await importRows(world.context(), world.one, rowsOf(changed), 'csv-back-2');
  const [after] = (await pages()).filter(({ id }) => id === live);
  expect([after?.periods.length, after?.periods[0]?.revision, after?.owner]).toEqual([1, 1, 'author']);
  const moved = before.map((cells) =>
    cells['id'] === String(planned) ? { ...cells, address: 'one.example/elsewhere' } : cells,
  );
  expect(
    (await importPreview(world.context(), world.one, rowsOf(moved))).rows.filter(({ act }) => act === 'wrong'),
  ).toMatchObject([{ errors: [{ field: 'path' }] }]);
});

it('takes settings in and out: what is changed is in the draft, what is wrong is named, and nothing else changes', async () => {
  const [one, other] = [
    await world.page('/settings-one', { name: 'One' }),
    await world.page('/settings-other', { name: 'Two' }),
  ];
  const line = (id: number, cells: Parameters<typeof row>[1]) =>
    row(id, { id: String(id), path: `one.example/settings-${id === one ? 'one' : 'other'}`, ...cells });
  const asked = {
    title: "'=One, two",
    description: 'All about it.',
    shareTitle: 'For you',
    robots: 'noindex, max-snippet:50, unavailable_after: 2027-01-31T09:00:00.000Z',
  };
  await importRows(world.context(), world.one, [line(one, asked), line(other, { robots: 'none' })], 'settings-1');
  const settings = async (id: number) => {
    for await (const cells of exported(world.context(), world.one, {}, world.now)) if (cells.id === id) return cells;
    throw new Error('It is not there');
  };
  expect(await settings(one)).toMatchObject({
    ...{ 'draft title': '=One, two', 'draft description': 'All about it.', 'draft shared title': 'For you' },
    'draft robots': asked.robots,
  });
  expect((await settings(other))['draft robots']).toBe('noindex, nofollow');
  const preview = async (id: number, cells: Parameters<typeof row>[1]) =>
    (await importPreview(world.context(), world.one, [line(id, cells)])).rows[0];
  expect((await preview(one, asked))?.act).toBe('same');
  expect((await preview(one, { shareTitle: '-', description: 'Else', robots: '-' }))?.words).toEqual([
    ...['Description changed in the draft', 'Title where it is shared changed in the draft'],
    'Search engines changed in the draft',
  ]);
  for (const wrong of [
    { title: '-' },
    { robots: 'noindexx' },
    { robots: 'max-image-preview:huge' },
    { description: 'x'.repeat(501) },
  ])
    expect((await preview(one, wrong))?.errors.map(({ field }) => field)).toEqual(Object.keys(wrong));
  world.now = later(world.now, 60 * MINUTE);
  await importRows(world.context(), world.one, [line(one, { shareTitle: '-', robots: 'all' })], 'settings-2');
  expect(await settings(one)).toMatchObject({
    'draft shared title': '',
    'draft robots': 'all',
    'draft title': '=One, two',
  });
  // What was there before is among the states of the page.
  const [state] = await pageStates(world.context(), world.one, one);
  const { document } = await pageState(world.context(), world.one, one, state?.key ?? '');
  expect(document.metadata.shareTitle).toBe('For you');
});

it('takes what comes afterwards and further periods in and out: unchanged cells ask for nothing', async () => {
  const [ends, target, over] = [
    await world.page('/cells-ends', { name: 'Ends' }),
    await world.page('/cells-target', { name: 'Target' }),
    await world.page('/cells-over', { name: 'Over by now' }),
  ];
  const minute = Math.ceil(world.now / MINUTE) * MINUTE;
  const inMinutes = (n: number) => minute + n * MINUTE;
  const toTarget = { kind: 'redirect', status: 301, target: { kind: 'page', pageId: target } } as const;
  await world.press([
    {
      ...(world.put(ends, 'now', inMinutes(90), toTarget) as Extract<ReleaseChange, { act: 'release' }>),
      further: [{ from: world.wall(inMinutes(900)), until: null, afterwards: null }],
    },
    world.put(target, 'now'),
    world.put(over, 'now', inMinutes(1), { kind: 'gone' }),
  ]);
  world.now = later(world.now, 20 * MINUTE);
  const listed = async (ids: readonly number[]) => {
    const cells: ImportRow[] = [];
    for await (const one of exported(world.context(), world.one, {}, world.now))
      if (ids.includes(Number(one.id)))
        cells.push(
          row(cells.length + 2, {
            ...{ id: String(one.id), name: String(one.name), path: String(one.address), from: String(one.from) },
            ...{
              until: String(one.until),
              afterwards: String(one.afterwards),
              further: String(one['further periods']),
            },
          }),
        );
    return cells.sort((a, b) => Number(a.id) - Number(b.id));
  };
  const before = await listed([ends, over]);
  expect(before.map(({ afterwards, further }) => [afterwards, further])).toEqual([
    ['301 one.example/cells-target', local(880)],
    ['gone', ''],
  ]);
  expect((await importPreview(world.context(), world.one, before)).rows.map(({ act }) => act)).toEqual([
    'same',
    'same',
  ]);
  // Who may not release may bring in what asks for nothing of visitors, and no more.
  expect(await importRows(world.context(), world.one, before, 'cells-1', false)).toMatchObject({ releaseId: null });
  const changed = [
    { ...(before[0] as ImportRow), afterwards: 'https://o.example/winter', further: `${local(880)}` },
    { ...(before[1] as ImportRow), afterwards: 'one.example/cells-target', further: `${local(300)} to ${local(400)}` },
  ];
  await expect(importRows(world.context(), world.one, changed, 'cells-2', false)).rejects.toMatchObject({
    code: 'not-allowed',
  });
  await importRows(world.context(), world.one, changed, 'cells-3');
  world.now = later(world.now, MINUTE);
  const after = await listed([ends, over]);
  expect(after[0]).toMatchObject({ afterwards: '302 https://o.example/winter', until: before[0]?.until });
  expect(after[1]).toMatchObject({ from: changed[1]?.further.split(' to ')[0], afterwards: 'not found' });
  const wrong = [
    { ...(before[0] as ImportRow), afterwards: 'one.example/nowhere' },
    row(3, { path: 'one.example/cells-target', afterwards: 'gone' }),
    row(4, { path: 'one.example/cells-new', name: 'x', further: 'some day; 2001-01-01' }),
  ];
  expect(
    (await importPreview(world.context(), world.one, wrong)).rows.map(({ errors }) => errors.map(({ field }) => field)),
  ).toEqual([['afterwards'], ['afterwards'], ['further', 'further']]);
});

it('applies what was confirmed as one release, once, and says of a release which row it can’t do', async () => {
  const rows = [
    row(2, { name: 'Brought in', site: 'Site', path: '/brought', from: local(30), until: local(60), labels: 'in' }),
    row(3, { name: 'Only a draft', site: 'one.example', path: '/only' }),
  ];
  const first = await importRows(world.context(), world.one, rows, 'import-key-1');
  expect(first).toMatchObject({ created: 2, changed: 0 });
  expect((await importRows(world.context(), world.one, rows, 'import-key-1')).releaseId).toBe(first.releaseId);
  const made = (await pages()).filter(({ name }) => name === 'Brought in' || name === 'Only a draft');
  expect(made.map(({ periods, labels }) => [periods.length, labels.join()])).toEqual([
    [1, 'in'],
    [0, ''],
  ]);
  const other = await world.page('/other', { name: 'Other' });
  await world.press([world.put(other, 'now', later(world.now, 50 * MINUTE))]);
  world.now = later(world.now, MINUTE);
  await world.press([world.put(other, later(world.now, 200 * MINUTE))]);
  const late = row(2, { name: 'Other', site: 'Site', path: '/other', from: local(100), until: local(300) });
  const [told] = (await importPreview(world.context(), world.one, [late])).rows;
  expect(told).toMatchObject({ act: 'wrong', errors: [{ field: 'from' }] });
  const refused = importRows(world.context(), world.one, [late], 'import-key-2');
  await expect(refused).rejects.toMatchObject({ code: 'invalid' });
});
