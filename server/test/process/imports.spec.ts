import { afterAll, beforeAll, beforeEach, expect, it } from '@jest/globals';
import { IMPORT_FIELDS, type ImportRow } from '@domatium/contracts';
import { rowOf, tableOf } from '@domatium/core/register';
import { later, MINUTE, wallOf } from '@domatium/core/time';
import { importPreview, importRows } from '../../src/features/imports/service.js';
import { register } from '../../src/features/register/service.js';
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
  expect(rows[1]?.words).toEqual(['renamed from “There”', 'another title in the draft']);
  expect(await pages()).toEqual(before);
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
  await world.press([world.put(other, later(world.now, 200 * MINUTE))]);
  const late = row(2, { name: 'Other', site: 'Site', path: '/other', from: local(100), until: local(300) });
  const [told] = (await importPreview(world.context(), world.one, [late])).rows;
  expect(told).toMatchObject({ act: 'wrong', errors: [{ field: 'from' }] });
  const refused = importRows(world.context(), world.one, [late], 'import-key-2');
  await expect(refused).rejects.toMatchObject({ code: 'invalid' });
});
