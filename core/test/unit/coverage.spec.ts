import { expect, it } from '@jest/globals';
import fc from 'fast-check';
import { uncovered } from '@domatium/core/plan';
import type { Instant, Interval } from '@domatium/core/time';

const instant = (n: number) => n as Instant;
/** Periods from the lengths of gaps and stretches in turn; the last may be open. */
const periods = fc
  .tuple(fc.array(fc.tuple(fc.nat(5), fc.integer({ min: 1, max: 5 })), { maxLength: 5 }), fc.boolean())
  .map(([pairs, isOpen]) => {
    let at = 0;
    const all: Interval[] = [];
    for (const [gap, length] of pairs) {
      all.push({ from: instant(at + gap), until: instant(at + gap + length) });
      at += gap + length;
    }
    const last = all.at(-1);
    if (isOpen && last) all[all.length - 1] = { from: last.from, until: null };
    return all;
  });

it('leaves uncovered just the minutes in which no period is', () =>
  fc.assert(
    fc.property(periods, fc.nat(20), fc.integer({ min: 1, max: 20 }), (all, from, length) => {
      const until = from + length;
      const gaps = uncovered(all, { from: instant(from), until: instant(until) });
      const naive = Array.from({ length }, (_, n) => from + n).filter(
        (at) => !all.some((one) => one.from <= at && (one.until === null || at < one.until)),
      );
      const named = gaps.flatMap((gap) => Array.from({ length: gap.until - gap.from }, (_, n) => gap.from + n));
      expect(named).toEqual(naive);
      expect(gaps.some(({ kind }) => kind === 'never')).toBe(naive.length === length);
      for (const gap of gaps) {
        if (gap.kind === 'late') expect(gap.from).toBe(from);
        if (gap.kind === 'early') expect(gap.until).toBe(until);
      }
    }),
  ));
