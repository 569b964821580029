import { columnsOf, NO_WAYS, type Question, type RegisterEntry, type RegisterLists } from '@domatium/core/register';
import { MINUTE } from '@domatium/core/time';
import { Desk } from '../src/app/hub/desk';

const address = { from: 0, until: null, host: 'one.example', basePath: '/', domain: 'one.example' };
const lists: RegisterLists = {
  sites: [{ id: 1, name: 'One', severities: {}, addresses: [address] }],
  campaigns: [{ id: 4, name: 'Midwinter' }],
  people: [{ id: 1, name: 'Ingrid' }],
  labels: [],
  templates: [],
  ways: NO_WAYS,
  robots: [],
  crawlers: [],
};
const entry = (id: number, name: string, campaign = -1): RegisterEntry => ({
  id,
  name,
  role: 'ordinary',
  version: 1,
  placements: [{ from: 0, until: null, site: 0, path: `/${id}` }],
  campaign,
  owner: 0,
  changedBy: 0,
  changedAt: id * MINUTE,
  labels: [],
  template: -1,
  findings: null,
  redirectsAfter: false,
  hidden: [],
  elsewhere: [],
  binned: [],
  prepared: [],
  tasks: null,
  periods: [{ from: 10 * MINUTE, until: id === 2 ? 20 * MINUTE : null, revision: 1 }],
  visits: 0,
  visitsBefore: 0,
  lastVisit: 0,
});
const question = (changes: Partial<Question> = {}): Question => ({
  at: 15 * MINUTE,
  now: 15 * MINUTE,
  scope: null,
  find: '',
  inText: [],
  state: 'all',
  campaign: null,
  owner: null,
  label: null,
  template: null,
  ways: null,
  search: null,
  findings: null,
  visits: null,
  sort: { column: 'name', isDescending: false },
  group: null,
  ...changes,
});
const desk = new Desk();
const keys = (start = 0, end = 99) =>
  desk.window(start, end).map((item) => (item.kind === 'page' ? item.page.name : `${item.label} ${item.count}`));
beforeEach(() => desk.load(columnsOf(lists, [entry(1, 'Boat'), entry(2, 'Anchor', 0), entry(3, 'Crew')])));

it('gives a window of what was asked, and the neighbours of a page in it', () => {
  expect(desk.ask(question(), [])).toMatchObject({ lines: 3, pages: 3 });
  expect([keys(), keys(1, 2)]).toEqual([['Anchor', 'Boat', 'Crew'], ['Boat']]);
  expect([desk.neighbour(1, 1), desk.neighbour(1, -1), desk.neighbour(3, 1), desk.lineOf(9)]).toEqual([3, 2, null, -1]);
  expect([desk.ids(), desk.ids([3, 1])]).toEqual([
    [2, 1, 3],
    [1, 3],
  ]);
});
it('stands heads of groups between the pages; a folded group is its head alone', () => {
  expect(desk.ask(question({ group: 'campaign' }), [])).toMatchObject({ lines: 5, pages: 3 });
  expect(keys()).toEqual(['Midwinter 1', 'Anchor', ' 2', 'Boat', 'Crew']);
  expect(desk.neighbour(2, 1)).toBe(1);
  expect(desk.ask(question({ group: 'campaign' }), ['Midwinter'])).toMatchObject({ lines: 4, pages: 3 });
  expect(keys()).toEqual(['Midwinter 1', ' 2', 'Boat', 'Crew']);
});
it('tells a list that shows something else from one where only the moment is another', () => {
  const moved = {
    ...entry(4, 'Dock'),
    placements: [
      { from: 0, until: 40 * MINUTE, site: 0, path: '/4' },
      { from: 40 * MINUTE, until: null, site: 0, path: '/dock' },
    ],
  };
  const binned = { ...entry(5, 'Ebb'), binned: [{ from: 60 * MINUTE, until: null }] };
  desk.load(columnsOf(lists, [entry(1, 'Boat'), entry(2, 'Anchor', 0), moved, binned]));
  const list = (changes: Partial<Question>, folded: string[] = []) => desk.ask(question(changes), folded).list;
  const at = (minute: number, more: Partial<Question> = {}) => list({ at: minute * MINUTE, ...more });
  const first = at(15);
  // Page 2 ends between the two: nothing stands elsewhere for it.
  expect([at(15), at(25), at(39)]).toEqual([first, first, first]);
  // What lies elsewhere, is in the bin, is left out by a filter, or has its group folded, is another list.
  const others = [at(41), at(61), at(15), at(15, { state: 'live' }), at(25, { state: 'live' })];
  others.push(at(25, { group: 'campaign' }), list({ at: 25 * MINUTE, group: 'campaign' }, ['Midwinter']));
  expect(others.map((one, index) => one - (others[index - 1] ?? first))).toEqual([1, 1, 1, 0, 1, 1, 1]);
  desk.touch([{ id: 1, at: 30 * MINUTE, by: 1 }]);
  expect(list({ at: 25 * MINUTE, group: 'campaign' }, ['Midwinter'])).toBe((others.at(-1) ?? 0) + 1);
});
it('takes news of pages that were asked for and of lists, and loses those that did not come', () => {
  desk.merge(columnsOf(lists, [entry(3, 'Crew wanted'), entry(5, 'Dock')]), [1, 3, 5]);
  desk.ask(question(), []);
  expect(keys()).toEqual(['Anchor', 'Crew wanted', 'Dock']);
  const [before] = desk.rows([2], 0);
  desk.merge(columnsOf({ ...lists, people: [{ id: 2, name: 'Ada' }, ...lists.people] }, []), [0]);
  expect(desk.rows([2], 0)).toEqual([before]);
  expect(desk.head(0).people[0]).toEqual({ id: 2, name: 'Ada' });
  // A draft that Ada saved.
  expect([desk.touch([{ id: 3, at: 7 * MINUTE, by: 2 }]), desk.touch([{ id: 3, at: 0, by: 77 }])]).toEqual([
    true,
    false,
  ]);
  expect(desk.rows([3], 0)).toMatchObject([{ name: 'Crew wanted', changedAt: 7 * MINUTE, changedBy: 'Ada' }]);
});
it('shows what differs between two moments, and counts all of it where it names only some', () => {
  const view = desk.differences(null, [15 * MINUTE, 25 * MINUTE], 5);
  expect(view.counts).toEqual({ comes: 0, goes: 1, revision: 0, address: 0 });
  expect(view.lines.map(({ kind, at, page }) => [kind, at, page.name])).toEqual([['goes', 20 * MINUTE, 'Anchor']]);
  expect(desk.differences(null, [0, 15 * MINUTE], 1)).toMatchObject({ counts: { comes: 3 }, lines: { length: 1 } });
});

it('stands what was found in a text behind what was found by name, so that nothing moves when it arrives', () => {
  const found = question({ find: 'boat', sort: { column: 'name', isDescending: false } });
  desk.ask(found, []);
  expect(keys()).toEqual(['Boat']);
  desk.ask({ ...found, inText: [2, 1] }, []);
  expect(keys()).toEqual(['Boat', 'Anchor']);
});
