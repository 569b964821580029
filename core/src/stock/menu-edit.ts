import type { PageId } from '../plan/index.js';
import { MENU_LEVELS, type MenuEntry } from './menus.js';

type Alone<Entry> = Entry extends MenuEntry ? Omit<Entry, 'entries'> : never;
/** An entry of a menu as a row: what is below it follows it, a level deeper. Levels count from 1. */
export interface MenuRow {
  readonly level: number;
  readonly entry: Alone<MenuEntry>;
}

export const rowsOfMenu = (entries: readonly MenuEntry[], level = 1): MenuRow[] =>
  entries.flatMap(({ entries: below, ...entry }) => [{ level, entry }, ...rowsOfMenu(below, level + 1)]);

/** Rows as entries again; a row is at most one level deeper than the one before it. */
export function menuOfRows(rows: readonly MenuRow[]): MenuEntry[] {
  let at = 0;
  const below = (level: number): MenuEntry[] => {
    const entries: MenuEntry[] = [];
    for (let row = rows[at]; row && row.level >= level; row = rows[at]) {
      at += 1;
      entries.push({ ...row.entry, entries: below(level + 1) } as MenuEntry);
    }
    return entries;
  };
  return below(1);
}

/** Behind the last row that is below a row. */
export function endOfRow(rows: readonly MenuRow[], index: number): number {
  const level = rows[index]?.level ?? 0;
  let end = index + 1;
  while ((rows[end]?.level ?? 0) > level) end += 1;
  return end;
}

/**
 * A row with all that is below it put before the row that is at `to` without them, at a level; no deeper than the row
 * before allows. `null` where that would be deeper than menus are, or changes nothing.
 */
export function moveRow(rows: readonly MenuRow[], index: number, to: number, level: number): MenuRow[] | null {
  const row = rows[index];
  if (!row) return null;
  const end = endOfRow(rows, index);
  const rest = [...rows.slice(0, index), ...rows.slice(end)];
  const before = rest[to - 1];
  const next = rest[to];
  // What stands behind it keeps what it is below: so no higher than that.
  const lowest = next?.level ?? 1;
  const own = Math.min(Math.max(level, lowest), (before?.level ?? 0) + 1);
  const moved = rows.slice(index, end).map((one) => ({ ...one, level: one.level - row.level + own }));
  if (moved.some((one) => one.level > MENU_LEVELS)) return null;
  return to === index && own === row.level ? null : [...rest.slice(0, to), ...moved, ...rest.slice(to)];
}

/** A row before the one before it of its level, or behind the one after it, as keys move it. */
export function stepRow(rows: readonly MenuRow[], index: number, step: -1 | 1): MenuRow[] | null {
  const level = rows[index]?.level ?? 0;
  const end = endOfRow(rows, index);
  if (step > 0) {
    if (rows[end]?.level !== level) return null;
    const behind = endOfRow(rows, end);
    return moveRow(rows, index, behind - (end - index), level);
  }
  let before = index - 1;
  while ((rows[before]?.level ?? 0) > level) before -= 1;
  return rows[before]?.level === level ? moveRow(rows, index, before, level) : null;
}

/** A row with what is below it, a level deeper or higher. */
export function indentRow(rows: readonly MenuRow[], index: number, step: -1 | 1): MenuRow[] | null {
  const level = (rows[index]?.level ?? 0) + step;
  if (level < 1) return null;
  if (step > 0) return level > (rows[index - 1]?.level ?? 0) + 1 ? null : moveRow(rows, index, index, level);
  // Out of what it is below it stands behind all of that.
  let parent = index - 1;
  while ((rows[parent]?.level ?? 0) > level) parent -= 1;
  const behind = endOfRow(rows, parent);
  return moveRow(rows, index, behind - (endOfRow(rows, index) - index), level);
}

/** Without one row; what is below it comes up to its place. */
export function withoutRow(rows: readonly MenuRow[], index: number): MenuRow[] {
  const end = endOfRow(rows, index);
  return rows.flatMap((row, n) => {
    if (n === index) return [];
    return [n > index && n < end ? { ...row, level: row.level - 1 } : row];
  });
}

/** Pages as a tree, each below the page whose path begins its own: to three levels, deeper ones at the third. */
export function treeOfPaths(pages: readonly { readonly id: number; readonly path: string }[]): MenuRow[] {
  const rows: MenuRow[] = [];
  const above: string[] = [];
  for (const { id, path } of [...pages].sort((a, b) => (a.path < b.path ? -1 : 1))) {
    while (above.length && !path.startsWith(`${above.at(-1)}/`)) above.pop();
    const level = Math.min(above.length + 1, MENU_LEVELS);
    rows.push({ level, entry: { kind: 'page', pageId: id as PageId, label: '' } });
    above.push(path);
  }
  return rows;
}
