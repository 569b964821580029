import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { PageId } from '../../src/plan/index.js';
import {
  indentRow,
  menuOfRows,
  moveRow,
  rowsOfMenu,
  stepRow,
  treeOfPaths,
  withoutRow,
  type MenuRow,
} from '../../src/stock/index.js';

const rowsFrom = (levels: readonly number[]): MenuRow[] => {
  let before = 0;
  return levels.map((wanted, n) => {
    before = Math.min(wanted, before + 1);
    return { level: before, entry: { kind: 'page', pageId: (n + 1) as PageId, label: '' } };
  });
};
const idOf = ({ entry }: MenuRow) => (entry.kind === 'page' ? entry.pageId : 0);
const drawn = (rows: readonly MenuRow[] | null) =>
  rows && rows.map((row) => '·'.repeat(row.level - 1) + idOf(row)).join(' ');

describe('a menu that is arranged', () => {
  it('loses nothing, whatever is moved where, and stays a tree of three levels', () => {
    const act = fc.record({
      what: fc.constantFrom('move', 'up', 'down', 'in', 'out', 'remove'),
      at: fc.nat(12),
      to: fc.nat(12),
      level: fc.integer({ min: -1, max: 5 }),
    });
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 12 }),
        fc.array(act, { maxLength: 12 }),
        (levels, acts) => {
          let rows = rowsFrom(levels);
          for (const { what, at, to, level } of acts) {
            const index = rows.length ? at % rows.length : 0;
            const before = rows.map(idOf).sort();
            const next =
              what === 'move'
                ? moveRow(rows, index, Math.min(to, rows.length - 1), level)
                : what === 'remove'
                  ? withoutRow(rows, index)
                  : what === 'in' || what === 'out'
                    ? indentRow(rows, index, what === 'in' ? 1 : -1)
                    : stepRow(rows, index, what === 'up' ? -1 : 1);
            if (!next) continue;
            const gone = what === 'remove' && rows[index] ? [idOf(rows[index])] : [];
            expect([...next.map(idOf), ...gone].sort()).toEqual(before);
            rows = next;
            rows.forEach((row, n) => {
              expect(row.level).toBeGreaterThanOrEqual(1);
              expect(row.level).toBeLessThanOrEqual(Math.min(3, (rows[n - 1]?.level ?? 0) + 1));
            });
            expect(rowsOfMenu(menuOfRows(rows))).toEqual(rows);
          }
        },
      ),
    );
  });
  it('moves an entry with all that is below it', () => {
    const rows = rowsFrom([1, 2, 3, 1, 2, 1]);
    expect(drawn(rows)).toBe('1 ·2 ··3 4 ·5 6');
    expect(drawn(stepRow(rows, 0, 1))).toBe('4 ·5 1 ·2 ··3 6');
    expect(drawn(stepRow(rows, 3, -1))).toBe('4 ·5 1 ·2 ··3 6');
    expect(drawn(stepRow(rows, 5, 1))).toBeNull();
    expect(drawn(indentRow(rows, 3, 1))).toBe('1 ·2 ··3 ·4 ··5 6');
    expect(drawn(indentRow(rows, 1, -1))).toBe('1 2 ·3 4 ·5 6');
    // Deeper than three levels nothing goes.
    expect(indentRow(rows, 1, 1)).toBeNull();
    expect(drawn(withoutRow(rows, 0))).toBe('2 ·3 4 ·5 6');
  });
  it('begins with pages below those whose paths begin theirs', () => {
    const paths = ['/b', '/a/x/y/z', '/a', '/a/x', '/ab', '/a/x/y'].map((path, n) => ({ id: n + 1, path }));
    expect(drawn(treeOfPaths(paths))).toBe('3 ·4 ··6 ··2 5 1');
  });
});
