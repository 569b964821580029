import { DAY } from '../time/index.js';
import {
  FINDING_FILTERS,
  SEARCH_FILTERS,
  STATE_FILTERS,
  VISIT_FILTERS,
  WAYS_FILTERS,
  type Counts,
  type FindingFilter,
  type GroupBy,
  type Question,
  type SearchFilter,
  type SortColumn,
  type StateFilter,
  type View,
  type VisitFilter,
  type WaysFilter,
} from './asked.js';
import { PAGE_ROLES } from './columns.js';
import { fold } from '../text/index.js';
import { SEARCH_WORDS } from '../words/search.js';
import { foundRows } from './find.js';
import { unfoundAt } from './findable.js';
import { ABSENT, BINNED, COMING, DRAFT, ENDED, ENDING_SOON, endOfRun, LIVE, statesAt } from './moment.js';
import { byName, placeAt, type RegisterTable } from './table.js';

const [STATE, CAMPAIGN, OWNER, LABEL, VISITS, FIND, TEMPLATE, FINDINGS, WAYS, SEARCH] = [
  1, 2, 4, 8, 16, 32, 64, 128, 256, 512,
] as const;
/** A change of visits worth a filter: by a quarter and by more than a handful. */
const NOTABLE = 0.25;
const HANDFUL = 20;
/** Days without a visit after which a page counts as unvisited. */
export const UNVISITED_DAYS = 90;

/** Answers a question: filters, counts, sorts, groups. */
export function viewOf(table: RegisterTable, question: Question): View {
  const states = statesAt(table, question.at);
  const scope = scopedRows(table, states, question);
  const fails = failuresOf(table, states, scope, question);
  const rows = scope.filter((_, index) => fails[index] === 0);
  const sorted = nearestFirst(table, sortedRows(table, states, rows, question), question);
  const { order, groups } = question.group
    ? groupedRows(table, states, sorted, question.group, question.at)
    : { order: sorted, groups: [] };
  return { rows: order, groups, counts: countsOf(table, states, scope, fails, question) };
}

/**
 * Until somebody sorts, what is called just what was typed stands first, then what begins so. What was found by its text
 * alone always stands behind the rest: it arrives later, and must move nothing under one's hand.
 */
function nearestFirst(
  table: RegisterTable,
  rows: Int32Array,
  { find, inText, sort, isUnsorted }: Question,
): Int32Array {
  const found = inText.length ? foundRows(table, find) : null;
  const nameTier = find && (isUnsorted || !sort) ? nameTierOf(table, find) : null;
  if (!found && !nameTier) return rows;
  const tiers: [number[], number[], number[], number[]] = [[], [], [], []];
  for (const row of rows) tiers[found && !found[row] ? 3 : (nameTier?.(row) ?? 2)].push(row);
  return Int32Array.from(tiers.flat());
}

/** How near the name of a row is to what was typed: 0 the same, 1 beginning so, 2 anything else. */
export function nameTierOf({ columns }: RegisterTable, typed: string): (row: number) => 0 | 1 | 2 {
  const wanted = fold(typed).trim();
  return (row) => {
    const name = fold(columns.names[row] as string);
    return name === wanted ? 0 : name.startsWith(wanted) ? 1 : 2;
  };
}

/** Rows that exist at the moment and belong to the scope. */
export function scopedRows(
  table: RegisterTable,
  states: Uint8Array,
  { scope, at }: Pick<Question, 'scope' | 'at'>,
): Int32Array {
  const { columns } = table;
  const campaign = scope?.kind === 'campaign' ? columns.campaigns.findIndex(({ id }) => id === scope.id) : -1;
  const site = scope?.kind === 'site' ? columns.sites.findIndex(({ id }) => id === scope.id) : -1;
  const rows: number[] = [];
  for (let row = 0; row < table.size; row++) {
    if (states[row] === ABSENT || (states[row] === BINNED) !== (scope?.kind === 'bin')) continue;
    if (scope?.kind === 'campaign' && columns.campaign[row] !== campaign) continue;
    if (scope?.kind === 'site' && (table.moved.has(row) ? placeAt(table, row, at).site : columns.site[row]) !== site)
      continue;
    if (scope?.kind === 'domain' && placeAt(table, row, at).domain !== scope.name) continue;
    rows.push(row);
  }
  return Int32Array.from(rows);
}

/** For each row of the scope the filters it fails, as bits. */
function failuresOf(table: RegisterTable, states: Uint8Array, scope: Int32Array, question: Question): Uint16Array {
  const { columns } = table;
  const { state, campaign, owner, label, template, findings, visits, ways, search, at, now } = question;
  const found = foundRows(table, question.find);
  const inText = new Set(question.inText);
  const fails = new Uint16Array(scope.length);
  for (let index = 0; index < scope.length; index++) {
    const row = scope[index] as number;
    let bits = 0;
    if (state !== 'all' && !hasState(table, states, row, state, at)) bits |= STATE;
    if (campaign !== null && columns.campaign[row] !== campaign) bits |= CAMPAIGN;
    if (owner !== null && columns.owner[row] !== owner) bits |= OWNER;
    if (label !== null && !hasLabel(table, row, label)) bits |= LABEL;
    if (visits && !hasVisits(table, states, row, visits, now)) bits |= VISITS;
    if (ways && !hasWays(table, states, row, ways, at)) bits |= WAYS;
    if (search && searchAt(table, states, row, at) !== search) bits |= SEARCH;
    if (template !== null && columns.template[row] !== template) bits |= TEMPLATE;
    if (findings && !hasFindings(table, states, row, findings)) bits |= FINDINGS;
    if (found && !found[row] && !inText.has(columns.ids[row] as number)) bits |= FIND;
    fails[index] = bits;
  }
  return fails;
}

function hasState(table: RegisterTable, states: Uint8Array, row: number, filter: StateFilter, at: number): boolean {
  switch (filter) {
    case 'all':
      return true;
    case 'ending':
      return states[row] === LIVE && endOfRun(table, row, at) - at <= ENDING_SOON;
    default:
      return states[row] === STATE_OF[filter];
  }
}
const STATE_OF = { live: LIVE, coming: COMING, ended: ENDED, draft: DRAFT } as const;

function hasLabel(table: RegisterTable, row: number, label: number): boolean {
  const labels = table.labels.get(row);
  return label === -1 ? !labels : (labels?.includes(label) ?? false);
}

/** A page that is over needs no mending: whatever was found in it, it counts as one without findings. */
function hasFindings({ findings }: RegisterTable, states: Uint8Array, row: number, filter: FindingFilter): boolean {
  const found = states[row] === ENDED ? undefined : findings.get(row);
  if (filter === 'blocks') return (found?.blocks ?? 0) > 0;
  return (found !== undefined) === (filter === 'some');
}

/** Only of what is live: the home page is led to by its address, and a not-found page is met. */
function hasWays(
  { columns, ways }: RegisterTable,
  states: Uint8Array,
  row: number,
  filter: WaysFilter,
  at: number,
): boolean {
  const role = PAGE_ROLES[columns.roles[row] as number];
  if (states[row] !== LIVE || role === 'not-found' || role === 'home') return false;
  const { inMenu, linked } = ways.at(at);
  return !(filter === 'no-menu' ? inMenu : linked).has(columns.ids[row] as number);
}

const searchAt = (table: RegisterTable, states: Uint8Array, row: number, at: number): SearchFilter =>
  unfoundAt(table, row, states[row] as number, at) ?? 'found';

/** Rising and falling are of the last 30 days against the 30 before; unvisited is live now, with no visit for long. */
function hasVisits(
  { columns, made }: RegisterTable,
  states: Uint8Array,
  row: number,
  filter: VisitFilter,
  now: number,
): boolean {
  const { roles } = columns;
  const [visits, before] = [columns.visits[row] as number, columns.visitsBefore[row] as number];
  if (filter === 'unvisited') {
    // A not-found page is met, not visited.
    if (states[row] !== LIVE || visits > 0 || PAGE_ROLES[roles[row] as number] === 'not-found') return false;
    const last = Math.max((columns.lastVisit[row] as number) * DAY, made[row] as number);
    return now - last >= UNVISITED_DAYS * DAY;
  }
  const change = visits - before;
  if (Math.abs(change) <= HANDFUL || Math.abs(change) < NOTABLE * before) return false;
  return filter === 'rising' ? change > 0 : change < 0;
}

function countsOf(
  table: RegisterTable,
  states: Uint8Array,
  scope: Int32Array,
  fails: Uint16Array,
  question: Question,
): Counts {
  const { columns } = table;
  const { at, now } = question;
  // What fails two filters is shown by no change of one.
  const near: number[] = [];
  let [live, comingSoon] = [0, 0];
  for (let index = 0; index < scope.length; index++) {
    const row = scope[index] as number;
    const bits = fails[index] as number;
    if (states[row] === LIVE) live++;
    if (goesLiveWithin(table, row, at, 7 * DAY)) comingSoon++;
    if ((bits & (bits - 1)) === 0) near.push(index);
  }
  const rowsBut = (filter: number) => {
    const rows: number[] = [];
    for (const index of near) if (((fails[index] as number) & ~filter) === 0) rows.push(scope[index] as number);
    return rows;
  };
  const counted = <Filter extends string>(
    bit: number,
    filters: readonly Filter[],
    has: (row: number, filter: Filter) => boolean,
  ): Record<Filter, number> => {
    const rows = rowsBut(bit);
    const countOf = (filter: Filter) => {
      let count = 0;
      for (const row of rows) if (has(row, filter)) count++;
      return [filter, count] as const;
    };
    return Object.fromEntries(filters.map(countOf)) as Record<Filter, number>;
  };
  const tallied = (bit: number, length: number, of: (row: number) => number | readonly number[]) => {
    const counts = new Uint32Array(length + 1);
    const add = (index: number) => (counts[index + 1] = (counts[index + 1] as number) + 1);
    for (const row of rowsBut(bit)) {
      const found = of(row);
      if (typeof found === 'number') add(found);
      else for (const one of found) add(one);
    }
    return new Map([...counts].flatMap((count, place) => (count ? [[place - 1, count] as const] : [])));
  };
  const answers = tallied(SEARCH, SEARCH_FILTERS.length, (row) =>
    SEARCH_FILTERS.indexOf(searchAt(table, states, row, at)),
  );
  return {
    scope: scope.length,
    states: counted(STATE, STATE_FILTERS, (row, filter) => hasState(table, states, row, filter, at)),
    campaigns: tallied(CAMPAIGN, columns.campaigns.length, (row) => columns.campaign[row] as number),
    owners: tallied(OWNER, columns.people.length, (row) => columns.owner[row] as number),
    labels: tallied(LABEL, columns.labels.length, (row) => table.labels.get(row) ?? -1),
    templates: tallied(TEMPLATE, columns.templates.length, (row) => columns.template[row] as number),
    findings: counted(FINDINGS, FINDING_FILTERS, (row, filter) => hasFindings(table, states, row, filter)),
    visits: counted(VISITS, VISIT_FILTERS, (row, filter) => hasVisits(table, states, row, filter, now)),
    ways: counted(WAYS, WAYS_FILTERS, (row, filter) => hasWays(table, states, row, filter, at)),
    search: Object.fromEntries(
      SEARCH_FILTERS.map((filter, place) => [filter, answers.get(place) ?? 0]),
    ) as Counts['search'],
    live,
    comingSoon,
  };
}

function goesLiveWithin({ first, from, until }: RegisterTable, row: number, at: number, ms: number): boolean {
  for (let n = first[row] as number, end = first[row + 1] as number; n < end; n++) {
    const start = from[n] as number;
    if (start > at && start <= at + ms && !(n > (first[row] as number) && until[n - 1] === start)) return true;
  }
  return false;
}

/** Each row's place in the order of a text, made once a table: sorting numbers is an order faster than sorting texts. */
function rankOf(table: RegisterTable, key: string, textOf: (row: number) => string): Float64Array {
  const known = table.ranks.get(key);
  if (known) return known;
  const texts = Array.from({ length: table.size }, (_, row) => textOf(row));
  const order = texts.map((_, row) => row).sort((a, b) => byName.compare(texts[a] as string, texts[b] as string));
  const rank = new Float64Array(table.size);
  let place = 0;
  order.forEach((row, index) => {
    if (index && byName.compare(texts[order[index - 1] as number] as string, texts[row] as string) !== 0) place = index;
    rank[row] = place;
  });
  table.ranks.set(key, rank);
  return rank;
}

/** Rows in the order asked for; without one, live first by their end, then what comes, what is over, drafts. */
function sortedRows(table: RegisterTable, states: Uint8Array, rows: Int32Array, { sort, at }: Question): Int32Array {
  const { columns } = table;
  const { column, isDescending } = sort ?? { column: 'when', isDescending: false };
  const key = sortKey(column);
  const names = rankOf(table, 'name', (row) => columns.names[row] as string);
  const keys = new Float64Array(table.size);
  for (const row of rows) keys[row] = key(row);
  const sign = isDescending ? -1 : 1;
  return rows.slice().sort((a, b) => {
    const [x, y] = [keys[a] as number, keys[b] as number];
    // What has no value stands at the end, whichever way the order goes.
    if (x !== y) return Number.isNaN(x) ? 1 : Number.isNaN(y) ? -1 : sign * (x < y ? -1 : 1);
    return (names[a] as number) - (names[b] as number) || a - b;
  });

  function sortKey(by: SortColumn): (row: number) => number {
    switch (by) {
      case 'name': {
        const rank = rankOf(table, 'name', (row) => columns.names[row] as string);
        return (row) => rank[row] as number;
      }
      case 'address': {
        const rank = rankOf(table, `address ${at}`, (row) => addressOf(table, row, at));
        return (row) => rank[row] as number;
      }
      case 'owner': {
        const rank = rankOf(table, 'owner', (row) => columns.people[columns.owner[row] as number]?.name ?? '\uffff');
        return (row) => rank[row] as number;
      }
      case 'visits':
        return (row) => columns.visits[row] as number;
      case 'change':
        return (row) =>
          columns.visitsBefore[row]
            ? ((columns.visits[row] as number) - (columns.visitsBefore[row] as number)) /
              (columns.visitsBefore[row] as number)
            : NaN;
      case 'fixes': {
        // One that blocks weighs more than any number that are only worth fixing.
        return (row) => {
          const { blocks, worthFixing } = table.findings.get(row) ?? { blocks: 0, worthFixing: 0 };
          return blocks * 1e6 + worthFixing;
        };
      }
      case 'changed':
        return (row) => columns.changedAt[row] as number;
      case 'when':
        return (row) => whenOrder(table, states[row] as number, row, at);
    }
  }
}

export const addressOf = (table: RegisterTable, row: number, at: number) => {
  const { host, path } = placeAt(table, row, at);
  return host + path;
};

/** Live by their end, then coming by their start, then ended with the latest first, then drafts. */
function whenOrder({ first, from, until }: RegisterTable, state: number, row: number, at: number): number {
  const block = state * 1e14;
  const last = until[(first[row + 1] as number) - 1] ?? Infinity;
  if (state === LIVE) return block + Math.min(last, 9e13);
  if (state === ENDED) return block + 9e13 - Math.min(last, 9e13);
  if (state !== COMING) return block;
  let start = 0;
  for (let n = first[row] as number; n < (first[row + 1] as number); n++)
    if ((from[n] as number) > at) {
      start = from[n] as number;
      break;
    }
  return block + start;
}

function groupedRows(table: RegisterTable, states: Uint8Array, rows: Int32Array, by: GroupBy, at: number) {
  const { columns } = table;
  const labelOf = (row: number): string => {
    if (by === 'site') return columns.sites[placeAt(table, row, at).site]?.name ?? '';
    if (by === 'domain') return placeAt(table, row, at).domain;
    if (by === 'search') return SEARCH_WORDS[searchAt(table, states, row, at)];
    if (by === 'campaign') return columns.campaigns[columns.campaign[row] as number]?.name ?? '';
    return columns.people[columns.owner[row] as number]?.name ?? '';
  };
  const byLabel = new Map<string, number[]>();
  for (const row of rows) {
    const label = labelOf(row);
    const group = byLabel.get(label);
    if (group) group.push(row);
    else byLabel.set(label, [row]);
  }
  // Those that belong to none come last.
  const labels = [...byLabel.keys()].sort((a, b) => Number(a === '') - Number(b === '') || byName.compare(a, b));
  const order: number[] = [];
  const groups = labels.map((label) => {
    const members = byLabel.get(label) ?? [];
    const start = order.length;
    order.push(...members);
    return { label, start, count: members.length };
  });
  return { order: Int32Array.from(order), groups };
}
