import { fold } from '../text/index.js';
import {
  fromMinutes,
  PAGE_ROLES,
  type RegisterColumns,
  type RegisterEntry,
  type RegisterPlacement,
  type RobotsSaid,
} from './columns.js';
import { readRobots, type RobotsTxt } from '../root/index.js';
import { byReach, ruleFor, type RuleFor } from '../stock/standing.js';
import { WaysOfMoments } from './ways.js';

/** Columns made ready for questions: periods as flat arrays, texts folded once, ranks made when first asked for. */
export interface RegisterTable {
  readonly columns: RegisterColumns;
  readonly size: number;
  /** Periods of row `n` are those from `first[n]` to before `first[n + 1]`, in milliseconds; an open end is Infinity. */
  readonly first: Uint32Array;
  readonly from: Float64Array;
  readonly until: Float64Array;
  readonly revision: Uint32Array;
  readonly made: Float64Array;
  readonly moved: ReadonlyMap<number, readonly RegisterPlacement[]>;
  readonly labels: ReadonlyMap<number, readonly number[]>;
  readonly tasks: ReadonlyMap<number, NonNullable<RegisterEntry['tasks']>>;
  readonly findings: ReadonlyMap<number, NonNullable<RegisterEntry['findings']>>;
  readonly prepared: ReadonlyMap<number, RegisterEntry['prepared']>;
  readonly binned: ReadonlyMap<number, RegisterEntry['binned']>;
  readonly hidden: ReadonlyMap<number, RegisterEntry['hidden']>;
  readonly elsewhere: ReadonlyMap<number, RegisterEntry['elsewhere']>;
  /** What is asked of search engines further up, from the whole to the single. */
  readonly robots: readonly { readonly for: RuleFor; readonly stretches: RobotsSaid['stretches'] }[];
  /** Lines of `robots.txt` by the site at whose root they lie, read. */
  readonly crawlers: ReadonlyMap<
    number,
    readonly { readonly from: number; readonly until: number | null; readonly lines: RobotsTxt }[]
  >;
  /** Pages that are in a menu, and those that anything leads to. */
  readonly ways: WaysOfMoments;
  readonly rowOfId: ReadonlyMap<number, number>;
  /** Name, addresses of all times and labels of a row as finding compares them. */
  readonly texts: readonly string[];
  readonly ranks: Map<string, Float64Array>;
}

/** An earlier table of the same lists, and the pages that are not as they were in it. */
export interface Earlier {
  readonly table: RegisterTable;
  readonly changed: ReadonlySet<number>;
}

/** The table of columns. What an earlier one has made of pages that are as they were is taken over. */
export function tableOf(columns: RegisterColumns, earlier?: Earlier): RegisterTable {
  const size = columns.ids.length;
  const count = columns.revisions.length;
  const first = new Uint32Array(size + 1);
  const [from, until, revision] = [
    new Float64Array(count),
    new Float64Array(count),
    Uint32Array.from(columns.revisions),
  ];
  let at = 0;
  for (let row = 0; row < size; row++) {
    let last = 0;
    for (const end = at + (columns.periods[row] ?? 0); at < end; at++) {
      const start = last + (columns.times[2 * at] ?? 0);
      const length = columns.times[2 * at + 1] ?? 0;
      from[at] = fromMinutes(start);
      until[at] = length === 0 ? Infinity : fromMinutes(start + length);
      last = start + length;
    }
    first[row + 1] = at;
  }
  const labels = new Map(columns.labelled);
  const moved = new Map(columns.moved);
  const table = {
    columns,
    size,
    first,
    from,
    until,
    revision,
    labels,
    moved,
    tasks: new Map(columns.tasks.map(([row, open, due]) => [row, { open, due }])),
    findings: new Map(columns.findings.map(([row, blocks, worthFixing]) => [row, { blocks, worthFixing }])),
    prepared: new Map(columns.prepared),
    binned: new Map(columns.binned),
    hidden: new Map(columns.hidden),
    elsewhere: new Map(columns.elsewhere),
    made: Float64Array.from(columns.made, fromMinutes),
    robots: rulesSaid(columns.robots),
    crawlers: new Map(
      columns.crawlers.map(({ siteId, stretches }) => [
        siteId,
        stretches.map(({ from, until, text }) => ({ from, until, lines: readRobots(text) })),
      ]),
    ),
    ways: new WaysOfMoments(columns.ways),
    rowOfId: new Map(columns.ids.map((id, row) => [id, row])),
    texts: [] as string[],
    ranks: new Map<string, Float64Array>(),
  };
  const textBefore = (id: number) => {
    const row = earlier && !earlier.changed.has(id) ? earlier.table.rowOfId.get(id) : undefined;
    return row === undefined ? undefined : earlier?.table.texts[row];
  };
  table.texts = columns.ids.map((id, row) => {
    const known = textBefore(id);
    if (known !== undefined) return known;
    const marks = (labels.get(row) ?? []).map((index) => columns.labels[index] ?? '');
    return fold([columns.names[row] ?? '', ...addressesOf(table, row), ...marks].join(' '));
  });
  const names = earlier && takenRanks(table, earlier);
  if (names) table.ranks.set('name', names);
  return table;
}

const rulesSaid = (all: readonly RobotsSaid[]): RegisterTable['robots'] =>
  all
    .flatMap(({ key, siteId, stretches }, id) => {
      const about = ruleFor(key, siteId);
      return about ? [{ id, for: about, stretches }] : [];
    })
    .sort(byReach);

/** More new names than this are better sorted with all the others. */
const FEW = 50;

/**
 * The order of names, taken over from an earlier table: new names are put between the two they stand between, for which
 * a rank may be any number. `null` where sorting anew is as well.
 */
function takenRanks({ columns }: RegisterTable, { table, changed }: Earlier): Float64Array | null {
  const before = table.ranks.get('name');
  if (!before) return null;
  const ranks = new Float64Array(columns.ids.length);
  const [known, fresh]: [number[], number[]] = [[], []];
  columns.ids.forEach((id, row) => {
    const old = table.rowOfId.get(id);
    const isSame = old !== undefined && (!changed.has(id) || table.columns.names[old] === columns.names[row]);
    if (isSame) ranks[row] = before[old] as number;
    (isSame ? known : fresh).push(row);
  });
  if (fresh.length > FEW) return null;
  known.sort((a, b) => (ranks[a] as number) - (ranks[b] as number));
  for (const row of fresh) {
    let [low, high] = [0, known.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (byName.compare(columns.names[known[middle] as number] as string, columns.names[row] as string) < 0)
        low = middle + 1;
      else high = middle;
    }
    const [under, over] = [known[low - 1], known[low]];
    const isEqual =
      over !== undefined && byName.compare(columns.names[over] as string, columns.names[row] as string) === 0;
    const below = under === undefined ? -1 : (ranks[under] as number);
    const above = over === undefined ? below + 2 : (ranks[over] as number);
    const rank = isEqual ? above : (below + above) / 2;
    if (!isEqual && (rank <= below || rank >= above)) return null;
    ranks[row] = rank;
    known.splice(low, 0, row);
  }
  return ranks;
}

/** How names stand in order: numbers by their size, case and accents aside. */
export const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Where a page lies at an instant. */
export interface Place {
  /** Index in the sites. */
  readonly site: number;
  readonly host: string;
  readonly path: string;
  readonly domain: string;
}

/** The site and path a row's page has at an instant, and the address its site has then. */
export function lyingAt({ columns, moved }: Pick<RegisterTable, 'columns' | 'moved'>, row: number, at: number) {
  let site = columns.site[row] ?? 0;
  let path = columns.paths[row] ?? '/';
  const placements = moved.get(row);
  if (placements) {
    const then = placements.findLast(({ from }) => from <= at) ?? placements[0];
    if (then) ({ site, path } = then);
  }
  const { addresses = [], name = '' } = columns.sites[site] ?? {};
  return { site, path, name, address: addresses.findLast(({ from }) => from <= at) ?? addresses[0] };
}

/** Where a row's page lies at an instant, under the address its site has then; `Infinity` for as far as is planned. */
export function placeAt(table: Pick<RegisterTable, 'columns' | 'moved'>, row: number, at: number): Place {
  const { site, path, name, address } = lyingAt(table, row, at);
  if (!address) return { site, host: name, path, domain: name };
  const base = address.basePath === '/' ? '' : address.basePath;
  return {
    site,
    host: address.host,
    path: base + (base && path === '/' ? '' : path),
    domain: address.domain ?? address.host,
  };
}

/** Every address a row's page has, had or is to have, the last one first: people search by what stands on a poster. */
function addressesOf(table: Pick<RegisterTable, 'columns' | 'moved'>, row: number): string[] {
  const { columns, moved } = table;
  const placements = moved.get(row) ?? [];
  const sites = [columns.site[row] ?? 0, ...placements.map(({ site }) => site)];
  const moments = [
    Infinity,
    ...placements.map(({ from }) => from),
    ...sites.flatMap((site) => (columns.sites[site]?.addresses ?? []).slice(1).map(({ from }) => from)),
  ];
  if (moments.length > 1 && !placements.length) moments.push(-Infinity);
  return [...new Set(moments.map((at) => placeAt(table, row, at)).map(({ host, path }) => host + path))];
}

/** One row as an entry: what is shown of it in the list and what sheets begin with. */
export function entryOf(
  {
    columns,
    first,
    from,
    until,
    revision,
    made,
    moved,
    labels,
    binned,
    prepared,
    hidden,
    elsewhere,
    tasks,
    findings,
  }: RegisterTable,
  row: number,
): RegisterEntry {
  const periods = [];
  for (let at = first[row] ?? 0; at < (first[row + 1] ?? 0); at++) {
    const end = until[at] ?? Infinity;
    periods.push({ from: from[at] ?? 0, until: end === Infinity ? null : end, revision: revision[at] ?? 0 });
  }
  return {
    id: columns.ids[row] ?? 0,
    name: columns.names[row] ?? '',
    role: PAGE_ROLES[columns.roles[row] ?? 0] ?? 'ordinary',
    version: columns.versions[row] ?? 1,
    placements: moved.get(row) ?? [
      { from: made[row] ?? 0, until: null, site: columns.site[row] ?? 0, path: columns.paths[row] ?? '/' },
    ],
    campaign: columns.campaign[row] ?? -1,
    owner: columns.owner[row] ?? -1,
    changedBy: columns.changedBy[row] ?? -1,
    changedAt: fromMinutes(columns.changedAt[row] ?? 0),
    template: columns.template[row] ?? -1,
    findings: findings.get(row) ?? null,
    labels: labels.get(row) ?? [],
    redirectsAfter: columns.redirectsAfter[row] === 1,
    binned: binned.get(row) ?? [],
    prepared: prepared.get(row) ?? [],
    hidden: hidden.get(row) ?? [],
    elsewhere: elsewhere.get(row) ?? [],
    tasks: tasks.get(row) ?? null,
    periods,
    visits: columns.visits[row] ?? 0,
    visitsBefore: columns.visitsBefore[row] ?? 0,
    lastVisit: columns.lastVisit[row] ?? 0,
  };
}
