import type { RegisterLists } from './columns.js';
import {
  FINDING_FILTERS,
  SEARCH_FILTERS,
  GROUPS,
  scopeOf,
  SORTS,
  STATE_FILTERS,
  VISIT_FILTERS,
  WAYS_FILTERS,
  type Question,
} from './asked.js';

/**
 * A view as an address carries it: names of filters with what they are set to, and which columns are shown in which
 * order. Lists, exports and feeds all read it.
 */
export const VIEW_PARTS = [
  'scope',
  'state',
  'find',
  'sort',
  'campaign',
  'owner',
  'label',
  'template',
  'findings',
  'visits',
  'ways',
  'search',
  'group',
  'columns',
] as const;
/** The columns of the list in their usual order. */
export const LIST_COLUMNS = [
  ...(['choose', 'name', 'address', 'when', 'visits', 'change', 'line', 'fixes'] as const),
  ...(['owner', 'labels', 'todo', 'campaign', 'site', 'search', 'changed'] as const),
];
/** Not shown until somebody asks for them. */
export const EXTRA_COLUMNS: readonly string[] = ['owner', 'labels', 'todo', 'campaign', 'site', 'search'];
export const USUAL_COLUMNS: readonly string[] = LIST_COLUMNS.filter((id) => !EXTRA_COLUMNS.includes(id));

export type ViewPart = (typeof VIEW_PARTS)[number];
export type ViewParts = Readonly<Partial<Record<ViewPart, string>>>;

/** What an address names, to indices as the table has them; `-` is none, what is not known fits no page. */
const UNKNOWN = -2;
function indexOf(names: readonly string[], name: string | undefined): number | null {
  if (!name) return null;
  if (name === '-') return -1;
  const index = names.indexOf(name);
  return index < 0 ? UNKNOWN : index;
}

/** By identity, so that a new name changes no view; older addresses have names. */
function placeOf(
  items: readonly { readonly id: number; readonly name: string }[],
  said: string | undefined,
): number | null {
  const place = indexOf(
    items.map(({ id }) => String(id)),
    said,
  );
  return place === UNKNOWN
    ? indexOf(
        items.map(({ name }) => name),
        said,
      )
    : place;
}

/** The question a view asks at a moment. What changed last stands first, until somebody sorts. */
export function questionOf(
  parts: ViewParts,
  { campaigns, people, labels, templates }: Pick<RegisterLists, 'campaigns' | 'people' | 'labels' | 'templates'>,
  { at, now }: { readonly at: number; readonly now: number },
): Question {
  const [column, direction] = (parts.sort ?? '').split(':');
  const sort = SORTS.find((one) => one === column);
  return {
    at,
    now,
    scope: scopeOf(parts.scope ?? ''),
    find: parts.find ?? '',
    inText: [],
    state: STATE_FILTERS.find((one) => one === parts.state) ?? 'all',
    campaign: placeOf(campaigns, parts.campaign),
    owner: placeOf(people, parts.owner),
    label: indexOf(labels, parts.label),
    template: placeOf(templates, parts.template),
    findings: FINDING_FILTERS.find((one) => one === parts.findings) ?? null,
    visits: VISIT_FILTERS.find((one) => one === parts.visits) ?? null,
    ways: WAYS_FILTERS.find((one) => one === parts.ways) ?? null,
    search: SEARCH_FILTERS.find((one) => one === parts.search) ?? null,
    sort: sort ? { column: sort, isDescending: direction === 'desc' } : { column: 'changed', isDescending: true },
    isUnsorted: !sort,
    group: GROUPS.find((one) => one === parts.group) ?? null,
  };
}
