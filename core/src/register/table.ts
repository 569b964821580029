import { fold } from '../text/index.js';
import {
  fromMinutes,
  PAGE_ROLES,
  type RegisterColumns,
  type RegisterEntry,
  type RegisterPlacement,
} from './columns.js';

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
  readonly rowOfId: ReadonlyMap<number, number>;
  /** Name, address and labels of a row as finding compares them. */
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
    made: Float64Array.from(columns.made, fromMinutes),
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
    const { host, path } = placeAt(table, row, Infinity);
    const marks = (labels.get(row) ?? []).map((index) => columns.labels[index] ?? '');
    return fold([columns.names[row] ?? '', host + path, ...marks].join(' '));
  });
  // Nobody was renamed, came or went: names stand in the order they had.
  const names = earlier && hasSameNames(table, earlier) ? earlier.table.ranks.get('name') : undefined;
  if (names) table.ranks.set('name', names);
  return table;
}

function hasSameNames({ size, columns, rowOfId }: RegisterTable, { table, changed }: Earlier): boolean {
  if (size !== table.size) return false;
  for (const id of changed) {
    const [row, before] = [rowOfId.get(id), table.rowOfId.get(id)];
    if (row === undefined || row !== before || columns.names[row] !== table.columns.names[before]) return false;
  }
  return true;
}

/** Where a page lies at an instant. */
export interface Place {
  /** Index in the sites. */
  readonly site: number;
  readonly host: string;
  readonly path: string;
  readonly domain: string;
}

/** Where a row's page lies at an instant, under the address its site has then; `Infinity` for as far as is planned. */
export function placeAt(table: Pick<RegisterTable, 'columns' | 'moved'>, row: number, at: number): Place {
  const { columns } = table;
  let site = columns.site[row] ?? 0;
  let path = columns.paths[row] ?? '/';
  const placements = table.moved.get(row);
  if (placements) {
    const then = placements.findLast(({ from }) => from <= at) ?? placements[0];
    if (then) ({ site, path } = then);
  }
  const { addresses = [], name = '' } = columns.sites[site] ?? {};
  const address = addresses.findLast(({ from }) => from <= at) ?? addresses[0];
  if (!address) return { site, host: name, path, domain: name };
  const base = address.basePath === '/' ? '' : address.basePath;
  return {
    site,
    host: address.host,
    path: base + (base && path === '/' ? '' : path),
    domain: address.domain ?? address.host,
  };
}

/** One row as an entry: what is shown of it in the list and what sheets begin with. */
export function entryOf(
  { columns, first, from, until, revision, made, moved, labels, binned, prepared, tasks, findings }: RegisterTable,
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
    tasks: tasks.get(row) ?? null,
    periods,
    visits: columns.visits[row] ?? 0,
    visitsBefore: columns.visitsBefore[row] ?? 0,
    lastVisit: columns.lastVisit[row] ?? 0,
  };
}

/** Columns in which the rows of `news` take the place of those with the same ids, and `gone` are no more. */
export function mergedColumns(
  table: RegisterTable,
  news: RegisterTable,
  gone: ReadonlySet<number>,
  columnsOf: (entries: readonly RegisterEntry[]) => RegisterColumns,
): RegisterColumns {
  const entries: RegisterEntry[] = [];
  for (let row = 0; row < table.size; row++) {
    const id = table.columns.ids[row] ?? 0;
    if (!gone.has(id) && !news.rowOfId.has(id)) entries.push(entryOf(table, row));
  }
  for (let row = 0; row < news.size; row++) entries.push(entryOf(news, row));
  return columnsOf(entries.sort((a, b) => a.id - b.id));
}
