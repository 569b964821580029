import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  columnsOf,
  differencesBetween,
  endOfRun,
  entryOf,
  foundRows,
  gatherMarks,
  marksOf,
  mergedColumns,
  questionOf,
  relisted,
  rowOf,
  rowUnfound,
  SEARCH_FILTERS,
  touched,
  nextChange,
  placeAt,
  prefixDistance,
  statesAt,
  tableOf,
  viewOf,
  waysOver,
  WaysOfMoments,
  ABSENT,
  STATES,
  type Question,
  type RegisterEntry,
  type RegisterLists,
} from '../../src/register/index.js';
import type { Robots } from '../../src/document/index.js';
import { stretchesOf } from '../../src/metadata/index.js';
import { contains, DAY, MINUTE, type Instant } from '../../src/time/index.js';

const START = 1_700_000_000_000 - (1_700_000_000_000 % MINUTE);
const at = (minute: number) => START + minute * MINUTE;
/** What is in a menu and what is linked, page 16 from minute 30 to 60 only. */
const during = (from: number, until: number | null) => ({
  from: at(from) as Instant,
  until: until === null ? null : (at(until) as Instant),
});
const heldOf = (ids: readonly number[]) =>
  ids.map((id) => ({ id, during: id === 16 ? during(30, 60) : during(-20, null) }));
const [IN_MENU, LINKED] = [
  [10, 16, 22],
  [10, 13, 16, 40],
];
const since = at(-20) as Instant;
const WAYS = { since, inMenu: waysOver(heldOf(IN_MENU), since), linked: waysOver(heldOf(LINKED), since) };
const lists: RegisterLists = {
  sites: [
    {
      id: 1,
      name: 'Ferries',
      severities: {},
      addresses: [
        { from: 0, until: at(50), host: 'old.example', basePath: '/', domain: 'old.example' },
        { from: at(50), until: null, host: 'one.example', basePath: '/', domain: 'one.example' },
      ],
    },
    {
      id: 2,
      name: 'Tide Hall',
      severities: {},
      addresses: [{ from: 0, until: null, host: 'two.example', basePath: '/hall', domain: null }],
    },
  ],
  campaigns: [
    { id: 5, name: 'Midwinter' },
    { id: 6, name: 'Autumn' },
  ],
  people: [
    { id: 1, name: 'Ingrid' },
    { id: 2, name: 'Tomas' },
  ],
  labels: ['night', 'school'],
  templates: [{ id: 40, name: 'Offer' }],
  ways: WAYS,
  // The first site asks to be left out for a while; below one path of it that is taken back, until its own date is past.
  robots: [
    {
      siteId: 1,
      key: 'path:/b',
      stretches: stretchesOf({ unavailableAfter: { at: at(70), zone: 'UTC' } }, at(20), null),
    },
    { siteId: 1, key: null, stretches: stretchesOf({ noindex: true }, at(10), at(60)) },
  ],
  // For a while crawlers may not ask for one of its paths.
  crawlers: [{ siteId: 1, stretches: [{ from: at(35), until: at(55), text: 'User-agent: *\nDisallow: /a' }] }],
};

const index = (most: number) => fc.integer({ min: -1, max: most - 1 });
/** Periods that do not overlap, from cut points; half of them touch. */
const periods = fc
  .array(fc.integer({ min: 0, max: 100 }), { maxLength: 8 })
  .map((cuts) => [...new Set(cuts)].sort((a, b) => a - b))
  .chain((cuts) =>
    fc.tuple(fc.constant(cuts), fc.boolean(), fc.array(fc.boolean(), { minLength: 9, maxLength: 9 }), fc.nat(59_999)),
  )
  .map(([cuts, isOpen, isOn, ms]) =>
    cuts.flatMap((cut, n) => {
      const next = cuts[n + 1];
      if (!isOn[n] || (next === undefined && !isOpen)) return [];
      // A start that is no whole minute, as that of a page released now.
      return [{ from: at(cut) + (n === 0 ? ms : 0), until: next === undefined ? null : at(next), revision: n + 1 }];
    }),
  );
const entry = fc
  .record({
    name: fc.constantFrom('Night boat', 'Harbour lights', 'Hestvær', 'Gift vouchers', '=1+1'),
    placed: fc.array(fc.record({ site: fc.integer({ min: 0, max: 1 }), path: fc.constantFrom('/', '/a', '/b/c') }), {
      minLength: 1,
      maxLength: 3,
    }),
    campaign: index(2),
    owner: index(2),
    changedBy: index(2),
    template: index(1),
    findings: fc.option(fc.record({ blocks: fc.nat(2), worthFixing: fc.integer({ min: 1, max: 3 }) })),
    labels: fc.subarray([0, 1]),
    periods,
    visits: fc.nat(200),
    visitsBefore: fc.nat(200),
    changed: fc.nat(90),
  })
  .map(({ placed, changed, ...rest }): Omit<RegisterEntry, 'id'> => ({
    ...rest,
    role: 'ordinary',
    version: 1,
    changedAt: at(changed),
    redirectsAfter: rest.visits > 100,
    // Every third period is of a revision that asks to be left out, from half of it on, or not at all whatever its site asks.
    hidden: rest.periods.flatMap(({ from, until }, n) =>
      n % 3 === 1
        ? stretchesOf(
            [{ noindex: true as const }, { unavailableAfter: { at: (from + (until ?? from)) / 2, zone: 'UTC' } }, {}][
              Math.floor(n / 3) % 3
            ] as Robots,
            from,
            until,
          )
        : [],
    ),
    // And every third of one that names another page instead: the second, the third, or an outside address.
    elsewhere: rest.periods.flatMap(({ from, until }, n) =>
      n % 3 === 2 ? [{ from, until, to: [2, 3, null][Math.floor(n / 3) % 3] as number | null }] : [],
    ),
    binned: [],
    prepared: [],
    tasks: null,
    lastVisit: 0,
    placements: placed.map((place, n) => ({
      ...place,
      from: at(-10 + n * 30),
      until: n + 1 < placed.length ? at(-10 + (n + 1) * 30) : null,
    })),
  }));
const entries = fc
  .array(entry, { maxLength: 12 })
  .map((all) => all.map((one, n): RegisterEntry => ({ ...one, id: 10 + 3 * n })));
const minute = fc.integer({ min: -20, max: 110 }).map(at);
const question = (changes: Partial<Question> = {}): Question => ({
  at: at(40),
  now: at(40),
  scope: null,
  find: '',
  inText: [],
  state: 'all',
  campaign: null,
  owner: null,
  label: null,
  template: null,
  findings: null,
  ways: null,
  search: null,
  visits: null,
  sort: null,
  group: null,
  ...changes,
});
const tableFrom = (all: readonly RegisterEntry[]) => tableOf(columnsOf(lists, all));
const madeAt = ({ placements }: RegisterEntry) => placements[0]?.from ?? 0;
const holds = (period: { from: number; until: number | null }, t: number) =>
  period.from <= t && (period.until === null || t < period.until);
/** State by the words of the rule, one page at a time. */
const naiveState = (one: RegisterEntry, t: number) =>
  madeAt(one) > t
    ? 'absent'
    : one.periods.some((period) => holds(period, t))
      ? 'live'
      : one.periods.some(({ from }) => from > t)
        ? 'coming'
        : one.periods.length
          ? 'ended'
          : 'draft';
const naivePlace = (one: RegisterEntry, t: number) => {
  const placement = one.placements.filter(({ from }) => from <= t).at(-1) ?? one.placements[0];
  const site = lists.sites[placement?.site ?? 0];
  const address = site?.addresses.filter(({ from }) => from <= t).at(-1) ?? site?.addresses[0];
  const path = placement?.path ?? '/';
  const base = address?.basePath === '/' ? '' : (address?.basePath ?? '');
  return { site: placement?.site, host: address?.host, path: base + (base && path === '/' ? '' : path) };
};

describe('the table', () => {
  it('gives back every entry that was put in, to the millisecond', () => {
    fc.assert(
      fc.property(entries, (all) => {
        const table = tableOf(JSON.parse(JSON.stringify(columnsOf(lists, all))) as ReturnType<typeof columnsOf>);
        expect(all.map((_, row) => entryOf(table, row))).toEqual(all);
      }),
    );
  });
  it('knows state and place of every page at every moment, as the rules in words have it', () => {
    fc.assert(
      fc.property(entries, minute, (all, t) => {
        const table = tableFrom(all);
        const states = [...statesAt(table, t)].map((state) => (state === ABSENT ? 'absent' : STATES[state]));
        expect(states).toEqual(all.map((one) => naiveState(one, t)));
        all.forEach((one, row) => expect(placeAt(table, row, t)).toMatchObject(naivePlace(one, t)));
      }),
    );
  });
  it('takes news of some pages in place of the old, and drops those that are gone', () => {
    fc.assert(
      fc.property(entries, entries, fc.nat(3), (all, news, drop) => {
        const gone = new Set(all.slice(0, drop).map(({ id }) => id));
        const fresh = news.filter(({ id }) => !gone.has(id));
        const merged = mergedColumns(tableFrom(all), tableFrom(fresh), gone);
        const wanted = new Map(all.filter(({ id }) => !gone.has(id)).map((one) => [one.id, one]));
        for (const one of fresh) wanted.set(one.id, one);
        expect(merged).toEqual(
          columnsOf(
            lists,
            [...wanted.values()].sort((a, b) => a.id - b.id),
          ),
        );
        // What an earlier table knows is taken over, and nothing of it is out of date.
        const table = tableFrom(all);
        const byName = question({ sort: { column: 'name', isDescending: false } });
        viewOf(table, byName);
        const changed = new Set([...gone, ...fresh.map(({ id }) => id)]);
        const [taken, made] = [tableOf(merged, { table, changed }), tableOf(merged)];
        expect(taken.texts).toEqual(made.texts);
        expect(viewOf(taken, byName).rows).toEqual(viewOf(made, byName).rows);
      }),
    );
  });
});

describe('what an address names', () => {
  const moment = { at: 0, now: 0 };
  it('is found by identity, by name where it is older, and fits no page where it is not known', () => {
    const asked = (parts: Parameters<typeof questionOf>[0]) => {
      const { campaign, owner, template, label } = questionOf(parts, lists, moment);
      return [campaign, owner, template, label];
    };
    expect(asked({ campaign: '6', owner: '1', template: '40', label: 'school' })).toEqual([1, 0, 0, 1]);
    expect(asked({ campaign: 'Autumn', owner: 'Tomas', template: 'Offer' })).toEqual([1, 1, 0, null]);
    expect(asked({ campaign: '-', owner: '99', template: 'Gone', label: 'gone' })).toEqual([-1, -2, -2, -2]);
  });
  it('stays what it is when it gets another name', () => {
    const renamed = { ...lists, campaigns: lists.campaigns.map((one) => ({ ...one, name: `${one.name} 2027` })) };
    expect(questionOf({ campaign: '5' }, renamed, moment).campaign).toBe(0);
  });
});

describe('lists that changed', () => {
  it('are found again by identity: every entry refers to what it referred to, and to nothing that is gone', () => {
    const order = fc.shuffledSubarray([0, 1], { minLength: 1 });
    fc.assert(
      fc.property(entries, order, order, order, (all, people, campaigns, labels) => {
        const pick = <Item>(items: readonly Item[], places: readonly number[]) =>
          places.map((place) => items[place] as Item);
        const other = {
          ...lists,
          sites: [...lists.sites].reverse(),
          people: [{ id: 99, name: 'New' }, ...pick(lists.people, people)],
          campaigns: pick(lists.campaigns, campaigns),
          labels: ['brand new', ...pick(lists.labels, labels)],
          templates: [],
        };
        const at = (places: readonly number[], index: number, shift = 0) =>
          places.includes(index) ? places.indexOf(index) + shift : -1;
        const wanted = all.map((one) => ({
          ...one,
          placements: one.placements.map((place) => ({ ...place, site: 1 - place.site })),
          owner: at(people, one.owner, 1),
          changedBy: at(people, one.changedBy, 1),
          campaign: at(campaigns, one.campaign),
          labels: one.labels.map((label) => at(labels, label, 1)).filter((label) => label >= 0),
          template: -1,
        }));
        expect(relisted(columnsOf(lists, all), other)).toEqual(columnsOf(other, wanted));
      }),
    );
  });
  it('are not needed for a draft that was saved: it changes when and by whom, of that row', () => {
    fc.assert(
      fc.property(entries, fc.nat(12), fc.nat(90), (all, place, when) => {
        const id = all[place]?.id ?? 1;
        const touch = { id, at: at(when), by: 2 };
        const table = touched(tableFrom(all), [touch]);
        if (!all.some((one) => one.id === id)) return expect(table).toBeNull();
        const wanted = all.map((one) => (one.id === id ? { ...one, changedAt: at(when), changedBy: 1 } : one));
        expect(table?.columns).toEqual(columnsOf(lists, wanted));
      }),
    );
    expect(touched(tableFrom([]), [{ id: 1, at: 0, by: 2 }])).toBeNull();
  });
});

describe('a view', () => {
  const filters = fc.record({
    at: minute,
    state: fc.constantFrom(
      'all' as const,
      'live' as const,
      'coming' as const,
      'ending' as const,
      'ended' as const,
      'draft' as const,
    ),
    campaign: fc.option(index(2)),
    owner: fc.option(index(2)),
    label: fc.option(index(2)),
    visits: fc.option(fc.constantFrom('rising' as const, 'falling' as const)),
    template: fc.option(index(1)),
    findings: fc.option(fc.constantFrom('some' as const, 'blocks' as const, 'none' as const)),
    scope: fc.option(
      fc.constantFrom(
        { kind: 'domain' as const, name: 'one.example' },
        { kind: 'site' as const, id: 2 },
        { kind: 'campaign' as const, id: 6 },
      ),
    ),
  });
  it('knows at every moment, in any order, what was led to then', () => {
    const stretch = fc
      .record({
        id: fc.integer({ min: 1, max: 6 }),
        from: fc.integer({ min: -40, max: 90 }),
        length: fc.integer({ min: 1, max: 60 }),
        isOpen: fc.boolean(),
      })
      .map(({ id, from, length, isOpen }) => ({ id, during: during(from, isOpen ? null : from + length) }));
    fc.assert(
      fc.property(fc.array(stretch), fc.array(stretch), fc.array(minute, { minLength: 4 }), (menus, links, moments) => {
        const ways = { since, inMenu: waysOver(menus, since), linked: waysOver(links, since) };
        const keys = ways.inMenu.map(({ from, until }) => `${from} ${until}`);
        expect(new Set(keys).size).toBe(keys.length);
        const known = new WaysOfMoments(ways);
        for (const moment of moments) {
          const then = (all: typeof menus) =>
            [...new Set(all.filter((one) => contains(one.during, moment as Instant)).map(({ id }) => id))].sort();
          const { inMenu, linked } = known.at(moment);
          expect([[...inMenu].sort(), [...linked].sort()]).toEqual([then(menus), then(links)]);
        }
      }),
    );
  });
  it('counts for each filter what choosing it would show, and shows it', () => {
    fc.assert(
      fc.property(entries, filters, (all, chosen) => {
        const table = tableFrom(all);
        const { counts, rows } = viewOf(table, question(chosen));
        const shown = (changes: Partial<Question>) => viewOf(table, question({ ...chosen, ...changes })).rows.length;
        expect(counts.states[chosen.state]).toBe(rows.length);
        for (const state of STATES) expect(counts.states[state]).toBe(shown({ state }));
        expect(counts.states.all).toBe(STATES.reduce((sum, state) => sum + counts.states[state], 0));
        for (const one of [-1, 0, 1]) {
          expect(counts.campaigns.get(one) ?? 0).toBe(shown({ campaign: one }));
          expect(counts.owners.get(one) ?? 0).toBe(shown({ owner: one }));
          expect(counts.labels.get(one) ?? 0).toBe(shown({ label: one }));
        }
        for (const template of [-1, 0]) expect(counts.templates.get(template) ?? 0).toBe(shown({ template }));
        for (const findings of ['some', 'blocks', 'none'] as const)
          expect(counts.findings[findings]).toBe(shown({ findings }));
        expect(counts.findings.some + counts.findings.none).toBe(shown({ findings: null }));
        for (const visits of ['rising', 'falling', 'unvisited'] as const)
          expect(counts.visits[visits]).toBe(shown({ visits }));
        for (const ways of ['no-menu', 'unlinked'] as const) {
          expect(counts.ways[ways]).toBe(shown({ ways }));
          for (const moment of [question(chosen).at, at(70)]) {
            const shownThen = viewOf(table, question({ ...chosen, ways, at: moment }));
            expect(shownThen.counts.ways[ways]).toBe(shownThen.rows.length);
            const then = heldOf(ways === 'no-menu' ? IN_MENU : LINKED).filter((one) =>
              contains(one.during, moment as Instant),
            );
            for (const row of shownThen.rows) {
              expect(then.map(({ id }) => id)).not.toContain(table.columns.ids[row]);
              expect(statesAt(table, moment)[row]).toBe(STATES.indexOf('live'));
            }
          }
        }
      }),
    );
  });
  it('says of each page at each moment whether search engines can find it, and the first reason why not', () => {
    const linkedThen = (id: number, t: number) =>
      heldOf(LINKED).some((one) => one.id === id && contains(one.during, t as Instant));
    fc.assert(
      fc.property(entries, minute, (all, t) => {
        const table = tableFrom(all);
        const { counts, rows } = viewOf(table, question({ at: t }));
        const naive = (one: RegisterEntry) => {
          const last = one.periods.at(-1);
          if (naiveState(one, t) !== 'live')
            return one.redirectsAfter && last && last.until !== null && last.until <= t ? 'redirected' : 'not-live';
          if (naivePlace(one, t).site === 1) return 'own-host';
          const own = one.hidden.find((stretch) => holds(stretch, t));
          const { path } = one.placements.findLast(({ from }) => from <= t) ?? { path: '' };
          if (path === '/a' && t >= at(35) && t < at(55)) return 'robots-txt';
          const above =
            t >= at(20) && path.startsWith('/b/')
              ? t >= at(70)
                ? 'unavailable-above'
                : null
              : t >= at(10) && t < at(60)
                ? 'noindex-above'
                : null;
          const named = one.elsewhere.find((stretch) => holds(stretch, t));
          const target = all.find(({ id }) => id === named?.to);
          const isElsewhere = named && (named.to === null || (target && naiveState(target, t) === 'live'));
          const said = (own ? own.why : above) ?? (isElsewhere ? 'elsewhere' : null);
          return said ?? (linkedThen(one.id, t) ? 'found' : 'unlinked');
        };
        const said = new Map(all.map((one) => [one.id, naive(one)]));
        for (const row of rows)
          expect(rowUnfound(rowOf(table, row, t), t) ?? 'found').toBe(said.get(table.columns.ids[row] as number));
        for (const search of SEARCH_FILTERS) {
          const shown = viewOf(table, question({ at: t, search }));
          expect(shown.counts.search[search]).toBe(shown.rows.length);
          expect(counts.search[search]).toBe(shown.rows.length);
          for (const row of shown.rows) expect(said.get(table.columns.ids[row] as number)).toBe(search);
        }
      }),
    );
  });
  it('sorts by every column, up and down, and groups without losing a row', () => {
    fc.assert(
      fc.property(
        entries,
        fc.constantFrom(
          'name' as const,
          'address' as const,
          'visits' as const,
          'change' as const,
          'owner' as const,
          'fixes' as const,
          'changed' as const,
          'when' as const,
        ),
        fc.constantFrom('site' as const, 'domain' as const, 'campaign' as const, 'owner' as const),
        (all, column, group) => {
          const table = tableFrom(all);
          const order = (isDescending: boolean) => [
            ...viewOf(table, question({ sort: { column, isDescending } })).rows,
          ];
          const [up, down] = [order(false), order(true)];
          expect([...up].sort()).toEqual([...down].sort());
          if (column === 'visits') {
            const visits = up.map((row) => all[row]?.visits ?? 0);
            expect(visits).toEqual([...visits].sort((a, b) => a - b));
          }
          const { rows, groups } = viewOf(table, question({ sort: { column, isDescending: false }, group }));
          expect([...rows].sort()).toEqual([...up].sort());
          expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(rows.length);
          for (const { start, count } of groups) {
            const places = [...rows.subarray(start, start + count)].map((row) => up.indexOf(row));
            expect(places).toEqual([...places].sort((a, b) => a - b));
          }
        },
      ),
    );
  });
  it('takes a live page whose next revision follows directly for one that does not end', () => {
    const days = (n: number) => n * 24 * 60;
    const page = (list: [number, number | null][]): RegisterEntry => ({
      ...(fc.sample(entry, { numRuns: 1, seed: 7 })[0] as RegisterEntry),
      id: 1,
      placements: [{ from: 0, until: null, site: 0, path: '/' }],
      periods: list.map(([from, until], n) => ({
        from: at(from),
        until: until === null ? null : at(until),
        revision: n + 1,
      })),
    });
    const ending = (list: [number, number | null][]) =>
      viewOf(tableFrom([page(list)]), question({ state: 'ending' })).rows.length;
    expect(ending([[0, days(10)]])).toBe(1);
    expect(
      ending([
        [0, days(10)],
        [days(10), days(20)],
      ]),
    ).toBe(0);
    expect(ending([[0, days(20)]])).toBe(0);
    expect(
      endOfRun(
        tableFrom([
          page([
            [0, 50],
            [50, 90],
            [95, null],
          ]),
        ]),
        0,
        at(10),
      ),
    ).toBe(at(90));
  });
});

describe('finding', () => {
  const named = (...names: string[]) =>
    tableFrom(
      names.map((name, n) => ({
        ...(fc.sample(entry, { numRuns: 1, seed: n })[0] as RegisterEntry),
        id: n + 1,
        name,
        labels: n === 0 ? [1] : [],
      })),
    );
  const finds = (typed: string, ...names: string[]) => {
    const found = foundRows(named(...names), typed);
    return found ? names.filter((_, row) => found[row]) : null;
  };
  const all = ['Hestvær by night', 'Harbour lights weekend', 'Gift vouchers', 'Winter timetable'];
  it.each([
    ['hestvaer', ['Hestvær by night']],
    ['school', ['Hestvær by night']],
    ['LIGHTS harbour', ['Harbour lights weekend']],
    ['harbuor', ['Harbour lights weekend']],
    ['timtable', ['Winter timetable']],
    ['voucehr', ['Gift vouchers']],
    ['weekned', ['Harbour lights weekend']],
    ['gyft', ['Gift vouchers']],
    ['zzzz', []],
  ])('%s', (typed, names) => expect(finds(typed, ...all)).toEqual(names));
  it('takes a whole address, as the bar of a browser has it', () => {
    const table = named(...all);
    const place = placeAt(table, 0, Infinity);
    const address = place.host + place.path;
    const shown = (typed: string) => [...(foundRows(table, typed) ?? [])][0];
    const bare = address.replace(/\/+$/, '');
    for (const typed of [address, `https://${bare}`, `http://${bare}/`, `https://${bare}/?from=mail#top`])
      expect([typed, shown(typed)]).toEqual([typed, 1]);
  });
  it('finds what an address was, and parts of words', () => {
    const place = (from: number, site: number, path: string) => ({ from: at(from), until: null, site, path });
    const [sample] = fc.sample(entry, { numRuns: 1, seed: 3 });
    const moved = { ...(sample as RegisterEntry), placements: [place(0, 1, '/rooms-x'), place(60, 0, '/overnight')] };
    const still = { ...(sample as RegisterEntry), id: 99, placements: [place(0, 0, '/fares')], labels: [] };
    const table = tableFrom([moved, still]);
    const found = (typed: string) => [...(foundRows(table, typed) ?? [])];
    expect(found('https://two.example/hall/rooms-x')).toEqual([1, 0]);
    expect(found('one.example/overnight')).toEqual([1, 0]);
    // The host of its site changed while it lay there.
    expect(found('old.example/fares')).toEqual([0, 1]);
    expect(finds('eekend', ...all)).toEqual(['Harbour lights weekend']);
  });
  it('puts what is called so first, then what begins so, until somebody sorts', () => {
    const names = ['By night boat', 'Night boat in winter', 'Night boat', 'Night'];
    const [sample] = fc.sample(entry, { numRuns: 1, seed: 5 });
    const entries = names.map((name, n) => ({
      ...(sample as RegisterEntry),
      ...{ id: n + 1, name, labels: [], placements: [{ from: 0, until: null, site: 0, path: `/${n}` }] },
      changedAt: at(90 - n),
    }));
    const shown = (more: Partial<Question>) =>
      [...viewOf(tableFrom(entries), question({ find: 'night boat', ...more })).rows].map((row) => names[row]);
    const changed = { column: 'changed', isDescending: true } as const;
    expect(shown({ sort: changed, isUnsorted: true })).toEqual(['Night boat', 'Night boat in winter', 'By night boat']);
    expect(shown({ sort: changed })).toEqual(['By night boat', 'Night boat in winter', 'Night boat']);
  });
  it('asks for nothing where nothing is typed', () => expect(finds('  ', ...all)).toBeNull());
  it('forgives as many slips as there are, and no more', () => {
    expect(prefixDistance('harbour', 'harbours', 2)).toBe(0);
    expect(prefixDistance('harbuor', 'harbour', 2)).toBe(1);
    expect(prefixDistance('abcd', 'abxd', 1)).toBe(1);
    expect(prefixDistance('abcd', 'wxyz', 1)).toBeGreaterThan(1);
    fc.assert(
      fc.property(
        fc.string({ minLength: 4, maxLength: 9 }),
        fc.nat(),
        fc.string({ minLength: 1, maxLength: 1 }),
        (word, place, letter) => {
          const n = place % word.length;
          expect(prefixDistance(word.slice(0, n) + letter + word.slice(n + 1), word, 2)).toBeLessThanOrEqual(1);
          expect(prefixDistance(word.slice(0, n) + word.slice(n + 1), word, 2)).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('two moments', () => {
  it('differ by what a reading of each page at both says', () => {
    fc.assert(
      fc.property(entries, minute, minute, (all, a, b) => {
        const [first, second] = [Math.min(a, b), Math.max(a, b)];
        const found = differencesBetween(tableFrom(all), null, [first, second]).map(
          ({ row, kind }) => `${row} ${kind}`,
        );
        const naive = all.flatMap((one, row) => {
          const [was, is] = [first, second].map((t) =>
            madeAt(one) > t ? undefined : one.periods.find((period) => holds(period, t)),
          );
          if (!was && !is) return [];
          if (!was || !is) return [`${row} ${is ? 'comes' : 'goes'}`];
          const [x, y] = [naivePlace(one, first), naivePlace(one, second)];
          return [
            ...(was.revision === is.revision ? [] : [`${row} revision`]),
            ...(x.host === y.host && x.path === y.path ? [] : [`${row} address`]),
          ];
        });
        expect(found.sort()).toEqual(naive.sort());
      }),
    );
  });
  it('are the same moment without any difference, and name the turn between them', () => {
    fc.assert(
      fc.property(entries, minute, minute, (all, a, b) => {
        const table = tableFrom(all);
        expect(differencesBetween(table, null, [a, a])).toEqual([]);
        const [first, second] = [Math.min(a, b), Math.max(a, b)];
        for (const { at: turn, kind } of differencesBetween(table, null, [first, second]))
          if (kind !== 'address') expect([turn >= first, turn <= second]).toEqual([true, true]);
      }),
    );
  });
});

describe('marks of the rail', () => {
  it('stand where a page comes to be live or ceases to, and gather without losing one', () => {
    fc.assert(
      fc.property(entries, fc.integer({ min: 1, max: 30 }), (all, minutes) => {
        const table = tableFrom(all);
        const rows = Int32Array.from(all, (_, row) => row);
        const marks = marksOf(table, rows, { from: at(-100), until: at(200) });
        const isLive = (one: RegisterEntry, t: number) => one.periods.some((period) => holds(period, t));
        const naive = all.flatMap((one) => {
          const edges = [
            ...new Set(one.periods.flatMap(({ from, until }) => [from, ...(until === null ? [] : [until])])),
          ];
          return edges
            .filter((t) => isLive(one, t) !== isLive(one, t - 1))
            .map((t) => `${t} ${isLive(one, t) ? 'live' : 'off'}`);
        });
        expect(marks.map(({ at: t, kind }) => `${t} ${kind}`).sort()).toEqual(naive.sort());
        const groups = gatherMarks(marks, minutes * MINUTE, at(40));
        expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(marks.length);
        groups.forEach((group, n) => {
          const before = groups[n - 1];
          const digits = String(before?.count).length;
          if (before && before.at <= at(40) === group.at <= at(40))
            expect(group.at - before.at).toBeGreaterThanOrEqual(minutes * MINUTE * (1 + 0.6 * (digits - 1)));
        });
      }),
    );
  });
  it('the next change is the first edge ahead', () => {
    const one = { ...(fc.sample(entry, { numRuns: 1, seed: 1 })[0] as RegisterEntry), id: 1 };
    const table = tableFrom([{ ...one, periods: [{ from: at(10), until: at(20), revision: 1 }] }]);
    const rows = Int32Array.of(0);
    expect([0, 10, 20].map((minute) => nextChange(table, rows, at(minute)))).toEqual([at(10), at(20), null]);
    expect(nextChange(table, rows, at(0) - 400 * DAY)).toBe(at(10));
  });
});
