import { UNFOUND } from '../metadata/index.js';

/** The places of the scope column; `null` is the whole portfolio. */
export type Scope =
  | { readonly kind: 'domain'; readonly name: string }
  | { readonly kind: 'site'; readonly id: number }
  | { readonly kind: 'campaign'; readonly id: number }
  | { readonly kind: 'bin' }
  | null;

/** A scope as an address carries it: `domain:NAME`, `site:ID`, `campaign:ID`, `bin`; anything else is the whole portfolio. */
export function scopeOf(text: string): Scope {
  const [kind, value] = text.split(':');
  if (text === 'bin') return { kind: 'bin' };
  if (kind === 'site' && Number(value)) return { kind, id: Number(value) };
  if (kind === 'campaign' && Number(value)) return { kind, id: Number(value) };
  return kind === 'domain' && value ? { kind, name: value } : null;
}

/** States of the chips above the list. *Ending soon* is a filter within live. */
export const STATE_FILTERS = ['all', 'live', 'coming', 'ending', 'ended', 'draft'] as const;
export type StateFilter = (typeof STATE_FILTERS)[number];

export const VISIT_FILTERS = ['rising', 'falling', 'unvisited'] as const;
export type VisitFilter = (typeof VISIT_FILTERS)[number];

export const FINDING_FILTERS = ['some', 'blocks', 'none'] as const;
export type FindingFilter = (typeof FINDING_FILTERS)[number];

/** Live pages that are in no menu, and those that nothing leads to. */
export const WAYS_FILTERS = ['no-menu', 'unlinked'] as const;
export type WaysFilter = (typeof WAYS_FILTERS)[number];

/** Pages that search engines can find, and those they can't, by why not. */
export const SEARCH_FILTERS = ['found', ...UNFOUND] as const;
export type SearchFilter = (typeof SEARCH_FILTERS)[number];

export const SORTS = ['name', 'address', 'when', 'visits', 'change', 'fixes', 'owner', 'changed'] as const;
export type SortColumn = (typeof SORTS)[number];

export const GROUPS = ['site', 'domain', 'campaign', 'owner', 'search'] as const;
export type GroupBy = (typeof GROUPS)[number];

/** What one asks of the register. Indices are those of the table's lists; `-1` asks for pages that have none. */
export interface Question {
  /** The shown moment. */
  readonly at: number;
  readonly now: number;
  readonly scope: Scope;
  readonly find: string;
  /** Pages whose text holds what was typed, as the server found them; they count as found too. */
  readonly inText: readonly number[];
  readonly state: StateFilter;
  readonly campaign: number | null;
  readonly owner: number | null;
  readonly label: number | null;
  readonly template: number | null;
  readonly findings: FindingFilter | null;
  readonly visits: VisitFilter | null;
  readonly ways: WaysFilter | null;
  readonly search: SearchFilter | null;
  readonly sort: { readonly column: SortColumn; readonly isDescending: boolean } | null;
  readonly group: GroupBy | null;
  /** Whether nobody sorted: then what was typed says what stands first. */
  readonly isUnsorted?: boolean;
}

/** Rows in order, and what each filter would show with the others as they are. */
export interface View {
  readonly rows: Int32Array;
  /** Where groups begin among the rows, where one asked for groups. */
  readonly groups: readonly { readonly label: string; readonly start: number; readonly count: number }[];
  readonly counts: Counts;
}

export interface Counts {
  readonly scope: number;
  readonly states: Readonly<Record<StateFilter, number>>;
  readonly campaigns: ReadonlyMap<number, number>;
  readonly owners: ReadonlyMap<number, number>;
  readonly labels: ReadonlyMap<number, number>;
  readonly templates: ReadonlyMap<number, number>;
  readonly findings: Readonly<Record<FindingFilter, number>>;
  readonly visits: Readonly<Record<VisitFilter, number>>;
  readonly ways: Readonly<Record<WaysFilter, number>>;
  readonly search: Readonly<Record<SearchFilter, number>>;
  /** Rows of the scope that are live at the moment, and that go live within seven days of it. */
  readonly live: number;
  readonly comingSoon: number;
}
