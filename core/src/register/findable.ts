import { unfoundOf, type HiddenStretch, type Unfound } from '../metadata/index.js';
import { robotsDecision } from '../root/index.js';
import { isCovered, placeOnSite } from '../stock/standing.js';
import { PAGE_ROLES } from './columns.js';
import { ENDED, LIVE, periodAt } from './moment.js';
import { lyingAt, type RegisterTable } from './table.js';

const heldAt = <T extends { readonly from: number; readonly until: number | null }>(
  stretches: readonly T[] | undefined,
  at: number,
): T | undefined => stretches?.find(({ from, until }) => from <= at && (until === null || at < until));

/** Why search engines can't find the page of a row at a moment, in the state it has then; `null` where they can. */
export function unfoundAt(table: RegisterTable, row: number, state: number, at: number): Unfound | null {
  const { columns, hidden, ways } = table;
  const role = PAGE_ROLES[columns.roles[row] as number];
  const own = heldAt(hidden.get(row), at);
  const lying = lyingAt(table, row, at);
  return unfoundOf({
    isLive: state === LIVE,
    isRedirected: state === ENDED && columns.redirectsAfter[row] === 1,
    isNotFoundPage: role === 'not-found',
    isOwnHost: (lying.address?.domain ?? null) === null,
    isForbidden: isForbiddenAt(table, lying, at),
    hiding: (own ?? saidAt(table, lying, at))?.why ?? null,
    isHidingItself: own !== undefined,
    isElsewhere: isElsewhereAt(table, row, at),
    isLedTo: role === 'home' || ways.at(at).linked.has(columns.ids[row] as number),
  });
}

/** Whether the lines of `robots.txt` at the root of its host keep crawlers from asking for it. */
function isForbiddenAt(
  { columns, crawlers }: RegisterTable,
  { address, path }: ReturnType<typeof lyingAt>,
  at: number,
) {
  if (!crawlers.size || !address) return false;
  const root = columns.sites.find(({ id, addresses }) => {
    const lies = addresses.findLast(({ from }) => from <= at);
    return crawlers.has(id) && lies?.host === address.host && lies.basePath === '/';
  });
  const held = root && heldAt(crawlers.get(root.id), at);
  const base = address.basePath === '/' ? '' : address.basePath;
  return held !== undefined && !robotsDecision(held.lines, '*', base + path).isAllowed;
}

/** Whether it names another page that is there: live, or not one of ours. */
function isElsewhereAt(table: RegisterTable, row: number, at: number): boolean {
  const stretch = heldAt(table.elsewhere.get(row), at);
  if (!stretch || stretch.to === null) return stretch !== undefined;
  const to = table.rowOfId.get(stretch.to);
  return to !== undefined && periodAt(table, to, at) >= 0;
}

/** What is said further up, by whoever says it last. */
function saidAt(
  { columns, robots }: RegisterTable,
  { site, path }: ReturnType<typeof lyingAt>,
  at: number,
): HiddenStretch | undefined {
  if (!robots.length) return undefined;
  const place = placeOnSite(columns.sites[site]?.id ?? null, '', path);
  return heldAt(robots.findLast((rule) => isCovered(rule.for, place) && heldAt(rule.stretches, at))?.stretches, at);
}

/** Whether a live page among these rows can be found at one of two moments only, or not for the same reason. */
export function areFoundOtherwise(table: RegisterTable, rows: Iterable<number>, a: number, b: number): boolean {
  const rules = table.robots.map(({ stretches }) => stretches);
  for (const stretches of [...table.hidden.values(), ...rules])
    if (heldAt(stretches, a) !== heldAt(stretches, b)) return true;
  for (const stretches of table.crawlers.values()) if (heldAt(stretches, a) !== heldAt(stretches, b)) return true;
  for (const row of table.elsewhere.keys())
    if (isElsewhereAt(table, row, a) !== isElsewhereAt(table, row, b)) return true;
  const { linked: was } = table.ways.at(a);
  const { linked: is } = table.ways.at(b);
  if (was === is) return false;
  for (const row of rows) {
    const id = table.columns.ids[row] as number;
    if (was.has(id) !== is.has(id)) return true;
  }
  return false;
}
