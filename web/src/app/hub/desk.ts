import type { Severities } from '@domatium/core/checks';
import type { Register } from '@domatium/contracts';
import {
  addressOf,
  areFoundOtherwise,
  columnsOf,
  differenceCounts,
  differencesBetween,
  foundRows,
  gatherMarks,
  marksOf,
  mergedColumns,
  nameTierOf,
  relisted,
  nextChange,
  NO_WAYS,
  placeAt,
  rowOf,
  scopedRows,
  statesAt,
  tableOf,
  touched,
  viewOf,
  ABSENT,
  BINNED,
  ENDED,
  type Counts,
  type DifferenceKind,
  type MarkGroup,
  type Question,
  type RegisterColumns,
  type RegisterLists,
  type RegisterRow,
  type RegisterTable,
  type Scope,
  type Touch,
  type View,
} from '@domatium/core/register';

/** What the lists beside the table hold, as the shown moment has it. */
export interface Head {
  readonly size: number;
  readonly sites: readonly {
    readonly id: number;
    readonly name: string;
    readonly severities: Severities;
    readonly host: string;
    readonly basePath: string;
    readonly domain: string;
    /** On the portfolio's own host below the installation. */
    readonly isOwn: boolean;
  }[];
  readonly campaigns: readonly { readonly id: number; readonly name: string }[];
  readonly people: readonly { readonly id: number; readonly name: string }[];
  readonly labels: readonly string[];
  readonly templates: readonly { readonly id: number; readonly name: string }[];
}

/** A line of the list: a page, or the head of a group. */
export type Item =
  | { readonly kind: 'page'; readonly key: string; readonly page: RegisterRow }
  | {
      readonly kind: 'group';
      readonly key: string;
      readonly label: string;
      readonly count: number;
      readonly isOpen: boolean;
    };

export interface Summary {
  /** Rises whenever lines stand elsewhere or show something else than before; not where only the moment is another. */
  readonly list: number;
  /** Lines, heads of groups among them, and pages. */
  readonly lines: number;
  readonly pages: number;
  readonly counts: Counts;
  /** The first lines, so that nobody has to ask twice before something stands there. */
  readonly first: readonly Item[];
}

export const FIRST_ROWS = 50;

export interface FindingSum {
  readonly blocks: number;
  readonly worthFixing: number;
}

export interface ScopeCounts {
  readonly all: number;
  readonly sites: ReadonlyMap<number, number>;
  readonly campaigns: ReadonlyMap<number, number>;
  /** What would block a release, and what is worth fixing, on each site that has any. */
  readonly findings: ReadonlyMap<number, FindingSum>;
  readonly bin: number;
}

export interface RailView {
  readonly marks: readonly MarkGroup[];
  readonly next: number | null;
}

export interface DifferenceLine {
  readonly kind: DifferenceKind;
  readonly at: number;
  readonly page: RegisterRow;
  readonly revisions: readonly [number, number];
  readonly addresses: readonly [string, string];
}

export interface DifferenceView {
  readonly counts: Record<DifferenceKind, number>;
  readonly lines: readonly DifferenceLine[];
}

const EMPTY: RegisterColumns = columnsOf(
  { sites: [], campaigns: [], people: [], labels: [], templates: [], ways: NO_WAYS, robots: [], crawlers: [] },
  [],
);

/** After the first rows are on their way. */
const WARM_UP = 1_500;

/** Owns the table of the register and answers everything that is asked of it; a web worker runs it. */
export class Desk {
  private table: RegisterTable = tableOf(EMPTY);
  private view: View | null = null;
  /** Lines of the list: rows, and heads of groups as `-1 - group`. */
  private lines = new Int32Array();
  private at = 0;
  private list = 0;
  private listed: RegisterTable | null = null;
  private folded: ReadonlySet<string> = new Set();

  load(columns: RegisterColumns): void {
    this.take(tableOf(columns));
  }

  /** Takes a register as the text it came as, and gives what is not of the table: megabytes are read here alone. */
  read(text: string): Omit<Register, 'columns'> {
    const { columns, ...rest } = JSON.parse(text) as Register;
    this.load(columns);
    return rest;
  }

  private take(table: RegisterTable): void {
    this.table = table;
    this.view = null;
    // What finding needs is made before somebody types, not at their first letter.
    setTimeout(() => table === this.table && foundRows(table, '-'), WARM_UP);
  }

  /** Takes what is new of the pages that were asked for, and lists that changed; those that did not come are no more. */
  merge(columns: RegisterColumns, asked: readonly number[]): void {
    const news = tableOf(columns);
    const gone = new Set(asked.filter((id) => !news.rowOfId.has(id)));
    const isSame = sameLists(this.table.columns, columns);
    if (isSame && !news.size && !gone.size) return;
    // Other lists: what stands in them is found again by its identity. Texts are made anew, since labels are in them.
    const table = isSame ? this.table : tableOf(relisted(this.table.columns, columns));
    const merged = mergedColumns(table, news, gone);
    this.take(tableOf(merged, isSame ? { table, changed: new Set(asked) } : undefined));
  }

  /** Takes that drafts were saved; gives false, and does nothing, where a page or person is not known. */
  touch(touches: readonly Touch[]): boolean {
    const table = touched(this.table, touches);
    if (table) this.take(table);
    return table !== null;
  }

  head(at: number): Head {
    const { sites, ...lists } = listsOf(this.table.columns);
    return {
      ...lists,
      size: this.table.size,
      sites: sites.map(({ id, name, severities, addresses }) => {
        const address = addresses.findLast(({ from }) => from <= at) ?? addresses[0];
        const host = address?.host ?? name;
        return {
          id,
          name,
          severities,
          host,
          basePath: address?.basePath ?? '/',
          domain: address?.domain ?? host,
          isOwn: address !== undefined && address.domain === null,
        };
      }),
    };
  }

  ask(question: Question, folded: readonly string[]): Summary {
    const before = { table: this.listed, lines: this.lines, at: this.at, heads: headsOf(this.view, this.folded) };
    this.view = viewOf(this.table, question);
    this.at = question.at;
    this.folded = new Set(folded);
    this.lines = linesOf(this.view, this.folded);
    this.listed = this.table;
    const isSame =
      before.table === this.table &&
      isSameOrder(before.lines, this.lines) &&
      before.heads === headsOf(this.view, this.folded) &&
      !this.anyMoved(before.at, question.at) &&
      !areFoundOtherwise(this.table, this.view.rows, before.at, question.at);
    if (!isSame) this.list++;
    return {
      list: this.list,
      lines: this.lines.length,
      pages: this.view.rows.length,
      counts: this.view.counts,
      first: this.window(0, FIRST_ROWS),
    };
  }

  /** Whether any page lies elsewhere, or is in the bin at one of two moments only. */
  private anyMoved(a: number, b: number): boolean {
    const { table } = this;
    if (a === b) return false;
    for (const row of table.moved.keys()) {
      const [was, is] = [placeAt(table, row, a), placeAt(table, row, b)];
      if (was.host !== is.host || was.path !== is.path || was.site !== is.site) return true;
    }
    for (const stays of table.binned.values()) {
      const at = (moment: number) =>
        stays.findIndex(({ from, until }) => from <= moment && (until === null || moment < until));
      if (at(a) !== at(b)) return true;
    }
    return false;
  }

  /** Lines of the last question, from `start` to before `end`. */
  window(start: number, end: number): Item[] {
    return [...this.lines.subarray(start, end)].map((line): Item => {
      if (line >= 0) {
        const page = rowOf(this.table, line, this.at);
        return { kind: 'page', key: String(page.id), page };
      }
      const { label = '', count = 0 } = this.view?.groups[-1 - line] ?? {};
      return { kind: 'group', key: `group ${label}`, label, count, isOpen: !this.folded.has(label) };
    });
  }

  /** Ids of the last question's pages in their order: all of them, or from one to another. */
  ids(between?: readonly [number, number]): number[] {
    const ids = [...(this.view?.rows ?? [])].map((row) => this.table.columns.ids[row] as number);
    if (!between) return ids;
    const [a, b] = between.map((id) => ids.indexOf(id)).sort((x, y) => x - y) as [number, number];
    return a < 0 ? [] : ids.slice(a, b + 1);
  }

  /** The place of a page among the lines, `-1` where it is not there. */
  lineOf(id: number): number {
    const row = this.table.rowOfId.get(id);
    return row === undefined ? -1 : this.lines.indexOf(row);
  }

  /** The page that stands `by` lines after another in the list, heads of groups apart. */
  neighbour(id: number, by: 1 | -1): number | null {
    for (let at = this.lineOf(id) + by; at >= 0 && at < this.lines.length; at += by) {
      const row = this.lines[at] as number;
      if (row >= 0) return this.table.columns.ids[row] ?? null;
    }
    return null;
  }

  rows(ids: readonly number[], at: number): RegisterRow[] {
    return ids.flatMap((id) => {
      const row = this.table.rowOfId.get(id);
      return row === undefined ? [] : [rowOf(this.table, row, at)];
    });
  }

  /** Pages that match what was typed, for choosing one. */
  pick(typed: string, at: number, except: number | null, most: number): RegisterRow[] {
    const found = foundRows(this.table, typed);
    const tierOf = nameTierOf(this.table, typed);
    const tiers: [number[], number[], number[]] = [[], [], []];
    for (let row = 0; row < this.table.size; row++) if (!found || found[row]) tiers[found ? tierOf(row) : 2].push(row);
    const picked: RegisterRow[] = [];
    for (const row of tiers.flat()) {
      if (picked.length === most) break;
      const page = rowOf(this.table, row, at);
      if (page.id !== except && page.role !== 'not-found' && page.binnedSince === null) picked.push(page);
    }
    return picked;
  }

  /** All pages of a scope at a moment. */
  ofScope(scope: Scope, at: number): number[] {
    const rows = scopedRows(this.table, statesAt(this.table, at), { scope, at });
    return Array.from(rows, (row) => this.table.columns.ids[row] as number);
  }

  /** The pages of a campaign that exist at a moment, by their first start. */
  ofCampaign(id: number, at: number): RegisterRow[] {
    const rows = scopedRows(this.table, statesAt(this.table, at), { scope: { kind: 'campaign', id }, at });
    const start = ({ periods }: RegisterRow) => periods[0]?.from ?? Infinity;
    return [...rows].map((row) => rowOf(this.table, row, at)).sort((a, b) => start(a) - start(b) || a.id - b.id);
  }

  scopeCounts(at: number): ScopeCounts {
    const states = statesAt(this.table, at);
    const [sites, campaigns] = [new Map<number, number>(), new Map<number, number>()];
    const findings = new Map<number, FindingSum>();
    const { columns } = this.table;
    let [all, bin] = [0, 0];
    for (let row = 0; row < this.table.size; row++) {
      if (states[row] === BINNED) bin++;
      if (states[row] === ABSENT || states[row] === BINNED) continue;
      all++;
      const site =
        columns.sites[this.table.moved.has(row) ? placeAt(this.table, row, at).site : (columns.site[row] as number)];
      const campaign = columns.campaigns[columns.campaign[row] as number];
      if (site) sites.set(site.id, (sites.get(site.id) ?? 0) + 1);
      const found = states[row] === ENDED ? undefined : this.table.findings.get(row);
      if (site && found) {
        const { blocks, worthFixing } = findings.get(site.id) ?? { blocks: 0, worthFixing: 0 };
        findings.set(site.id, {
          blocks: blocks + found.blocks,
          worthFixing: worthFixing + found.worthFixing,
        });
      }
      if (campaign) campaigns.set(campaign.id, (campaigns.get(campaign.id) ?? 0) + 1);
    }
    return { all, sites, campaigns, findings, bin };
  }

  rail(scope: Scope, span: { from: number; until: number }, closest: number, at: number, now: number): RailView {
    const rows = scopedRows(this.table, statesAt(this.table, Infinity), { scope, at });
    return {
      marks: gatherMarks(marksOf(this.table, rows, span), closest, now),
      next: nextChange(this.table, rows, at),
    };
  }

  differences(scope: Scope, between: readonly [number, number], most: number): DifferenceView {
    const all = differencesBetween(this.table, scope, between);
    return {
      counts: differenceCounts(all),
      lines: all.slice(0, most).map(({ row, kind, at, revisions }) => ({
        kind,
        at,
        revisions,
        addresses: [addressOf(this.table, row, between[0]), addressOf(this.table, row, between[1])],
        page: rowOf(this.table, row, between[1]),
      })),
    };
  }
}

function linesOf({ rows, groups }: View, folded: ReadonlySet<string>): Int32Array<ArrayBuffer> {
  if (!groups.length) return Int32Array.from(rows);
  const lines: number[] = [];
  groups.forEach(({ label, start, count }, index) => {
    lines.push(-1 - index);
    if (!folded.has(label)) lines.push(...rows.subarray(start, start + count));
  });
  return Int32Array.from(lines);
}

const isSameOrder = (a: Int32Array, b: Int32Array) =>
  a.length === b.length && a.every((line, index) => line === b[index]);

/** What heads of groups show. */
const headsOf = (view: View | null, folded: ReadonlySet<string>) =>
  JSON.stringify(view?.groups.map(({ label, count }) => [label, count, folded.has(label)]) ?? []);

/** The lists that rows refer to by their places. */
const listsOf = ({
  sites,
  campaigns,
  people,
  labels,
  templates,
}: RegisterColumns): Omit<RegisterLists, 'ways' | 'robots' | 'crawlers'> => ({
  sites,
  campaigns,
  people,
  labels,
  templates,
});

const sameLists = (a: RegisterColumns, b: RegisterColumns) => JSON.stringify(listsOf(a)) === JSON.stringify(listsOf(b));
