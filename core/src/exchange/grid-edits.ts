/** A cell that is to say something else. */
export interface CellChange<Key extends string> {
  readonly row: number;
  readonly key: Key;
  readonly value: string;
}
type CellId<Key extends string> = `${number} ${Key}`;
/** What cells said before a step, and say after it. */
type Step<Key extends string> = readonly (CellChange<Key> & { readonly before: string })[];

/**
 * What was typed into a grid and is not written yet: the cells that say something else than they did, with the steps that
 * led there. Immutable.
 */
export interface GridEdits<Key extends string> {
  readonly values: ReadonlyMap<CellId<Key>, string>;
  readonly done: readonly Step<Key>[];
  readonly undone: readonly Step<Key>[];
}

export const noEdits = <Key extends string>(): GridEdits<Key> => ({ values: new Map(), done: [], undone: [] });

/** What a cell says before anything is typed. */
export type CellOf<Key extends string> = (row: number, key: Key) => string;

export const cellNow = <Key extends string>(edits: GridEdits<Key>, of: CellOf<Key>, row: number, key: Key): string =>
  edits.values.get(`${row} ${key}`) ?? of(row, key);

/** With changes made as one step; those of cells that say it already count for nothing. */
export function withChanges<Key extends string>(
  edits: GridEdits<Key>,
  of: CellOf<Key>,
  changes: readonly CellChange<Key>[],
): GridEdits<Key> {
  const last = new Map(changes.map((change) => [`${change.row} ${change.key}`, change]));
  const step = [...last.values()].flatMap((change) => {
    const before = cellNow(edits, of, change.row, change.key);
    return before === change.value ? [] : [{ ...change, before }];
  });
  return step.length ? { values: valuesWith(edits.values, of, step), done: [...edits.done, step], undone: [] } : edits;
}

/** Without the last step, or with the one that was taken back last; the same where there is none. */
export function undone<Key extends string>(edits: GridEdits<Key>, of: CellOf<Key>): GridEdits<Key> {
  const step = edits.done.at(-1);
  if (!step) return edits;
  const back = step.map((change) => ({ ...change, value: change.before }));
  return { values: valuesWith(edits.values, of, back), done: edits.done.slice(0, -1), undone: [...edits.undone, step] };
}
export function redone<Key extends string>(edits: GridEdits<Key>, of: CellOf<Key>): GridEdits<Key> {
  const step = edits.undone.at(-1);
  if (!step) return edits;
  return { values: valuesWith(edits.values, of, step), done: [...edits.done, step], undone: edits.undone.slice(0, -1) };
}

function valuesWith<Key extends string>(
  values: GridEdits<Key>['values'],
  of: CellOf<Key>,
  changes: readonly CellChange<Key>[],
): GridEdits<Key>['values'] {
  const next = new Map(values);
  for (const { row, key, value } of changes)
    if (value === of(row, key)) next.delete(`${row} ${key}`);
    else next.set(`${row} ${key}`, value);
  return next;
}

/** What is changed, by row. */
export function changedRows<Key extends string>({
  values,
}: GridEdits<Key>): ReadonlyMap<number, { [K in Key]?: string }> {
  const rows = new Map<number, { [K in Key]?: string }>();
  for (const [id, value] of values) {
    const at = id.indexOf(' ');
    const row = Number(id.slice(0, at));
    rows.set(row, { ...rows.get(row), [id.slice(at + 1)]: value });
  }
  return rows;
}

/**
 * Cells that were copied elsewhere, laid over a grid from one of its cells on: what would lie below its last row or beside
 * its last column is counted, not kept. A single cell fills all `rows` that are given.
 */
export function laidOver<Key extends string>(
  copied: readonly (readonly string[])[],
  rows: readonly number[],
  keys: readonly Key[],
  chosen = 1,
): { readonly changes: readonly CellChange<Key>[]; readonly left: number } {
  const [first] = copied;
  const isOne = copied.length === 1 && first?.length === 1;
  const cells = isOne ? rows.slice(0, chosen).map(() => first) : copied;
  let left = 0;
  const changes = cells.flatMap((line, down) =>
    line.flatMap((value, across): CellChange<Key>[] => {
      const [row, key] = [rows[down], keys[across]];
      if (row !== undefined && key !== undefined) return [{ row, key, value }];
      left += 1;
      return [];
    }),
  );
  return { changes, left };
}

/** How often a text stands in cells, and what they would say with another in its place. */
export function replaced<Key extends string>(
  cells: Iterable<CellChange<Key>>,
  find: string,
  by: string,
  isCased: boolean,
): { readonly changes: readonly CellChange<Key>[]; readonly count: number } {
  if (!find) return { changes: [], count: 0 };
  const pattern = new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), isCased ? 'gu' : 'giu');
  let count = 0;
  const changes: CellChange<Key>[] = [];
  for (const cell of cells) {
    const value = cell.value.replace(pattern, () => {
      count += 1;
      return by;
    });
    if (value !== cell.value) changes.push({ ...cell, value });
  }
  return { changes, count };
}
