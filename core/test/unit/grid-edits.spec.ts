import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  cellNow,
  changedRows,
  laidOver,
  noEdits,
  redone,
  replaced,
  undone,
  withChanges,
  type CellChange,
  type GridEdits,
} from '@domatium/core/exchange';

type Key = 'title' | 'description';
const KEYS: readonly Key[] = ['title', 'description'];
const held = new Map<string, string>([
  ['1 title', 'One'],
  ['2 title', 'Two'],
]);
const of = (row: number, key: Key) => held.get(`${row} ${key}`) ?? '';
const change = fc.record<CellChange<Key>>({
  row: fc.integer({ min: 1, max: 3 }),
  key: fc.constantFrom(...KEYS),
  value: fc.constantFrom('', 'One', 'Two', 'Three'),
});
const all = (edits: GridEdits<Key>) => [1, 2, 3].flatMap((row) => KEYS.map((key) => cellNow(edits, of, row, key)));

describe('edits of a grid', () => {
  it('lead back step by step to what was there, and forth again to what was typed', () => {
    fc.assert(
      fc.property(fc.array(fc.array(change, { maxLength: 4 }), { maxLength: 8 }), (steps) => {
        const states = [noEdits<Key>()];
        for (const step of steps) {
          const before = states.at(-1) as GridEdits<Key>;
          const after = withChanges(before, of, step);
          // The last word on a cell counts; what says nothing new is no step.
          const last = new Map(step.map((one) => [`${one.row} ${one.key}`, one.value]));
          for (const [at, value] of last) expect(cellNow(after, of, Number(at[0]), at.slice(2) as Key)).toBe(value);
          if (after !== before) states.push(after);
        }
        let now = states.at(-1) as GridEdits<Key>;
        for (const state of states.slice(0, -1).reverse()) expect(all((now = undone(now, of)))).toEqual(all(state));
        expect(now.values.size).toBe(0);
        expect(undone(now, of)).toBe(now);
        for (const state of states.slice(1)) expect(all((now = redone(now, of)))).toEqual(all(state));
        // Only what differs from what was there is written.
        for (const [row, texts] of changedRows(now))
          for (const [key, value] of Object.entries(texts)) expect(value).not.toBe(of(row, key as Key));
      }),
    );
  });

  it('lays what was copied over cells and loses nothing of it unsaid', () => {
    const cells = fc.array(fc.array(fc.string({ maxLength: 3 }), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 5,
    });
    fc.assert(
      fc.property(cells, (copied) => {
        const { changes, left } = laidOver(copied, [1, 2, 3], KEYS);
        expect(changes.length + left).toBe(copied.flat().length);
        for (const { row, key, value } of changes) expect(copied[row - 1]?.[KEYS.indexOf(key)]).toBe(value);
      }),
    );
    expect(laidOver([['x']], [1, 2, 3], KEYS, 2).changes.map(({ row }) => row)).toEqual([1, 2]);
  });

  it('replaces a text as it is typed, whatever its letters mean elsewhere', () => {
    const cell = (value: string): CellChange<Key> => ({ row: 1, key: 'title', value });
    expect(replaced([cell('Fare (2026) and fare (2026)'), cell('None')], 'FARE (2026)', '$& {year}', false)).toEqual({
      count: 2,
      changes: [cell('$& {year} and $& {year}')],
    });
    expect(replaced([cell('Fare')], 'fare', 'x', true)).toEqual({ count: 0, changes: [] });
    expect(replaced([cell('Fare')], '', 'x', false)).toEqual({ count: 0, changes: [] });
  });
});
