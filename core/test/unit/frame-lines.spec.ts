import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  laidLines,
  LINE_SLOTS,
  partsOnLines,
  type FrameLine,
  type FrameLines,
  type FrameParts,
  type LineStretch,
  type WantedFrame,
} from '../../src/frame/index.js';
import { endOf, type Instant, type Interval } from '../../src/time/index.js';

const END = 30;
const PLACES = [0, 1, 2, 3, 4];
type Row = { readonly during: Interval; readonly lines: FrameLines };
const interval = (from: number, until: number | null) => ({ from, until }) as Interval;

/** Lines and places as a database keeps them: everything before a horizon stays. */
class Kept {
  readonly lines = new Map<number, readonly LineStretch[]>();
  readonly rows = new Map<number, Row[]>(PLACES.map((place) => [place, []]));
  lineOf = (id: number): FrameLine | undefined => {
    const stretches = this.lines.get(id);
    return stretches && { id, stretches };
  };
  private from(stretches: readonly LineStretch[], horizon: number): LineStretch[] {
    return stretches.flatMap((one) => {
      const from = Math.max(one.during.from, horizon);
      return from < endOf(one.during) ? [{ ...one, during: interval(from, one.during.until) }] : [];
    });
  }

  publish(
    wanted: readonly { place: number; from: number; stretches: WantedFrame['stretches'] }[],
    horizon: number,
  ): number {
    const due = new Set(wanted.map(({ place }) => place));
    const elsewhere = new Set(
      PLACES.filter((place) => !due.has(place)).flatMap((place) =>
        (this.rows.get(place) ?? []).flatMap(({ during, lines }) =>
          endOf(during) > horizon ? Object.values(lines) : [],
        ),
      ),
    );
    const { changed, begun, at } = laidLines(
      wanted.map(({ place, from, stretches }) => ({
        ...{ place: String(place), during: interval(from, null), stretches },
        lines: this.rows.get(place)?.find(({ during }) => during.from <= from && from < endOf(during))?.lines ?? null,
      })),
      this.lineOf,
      (line) => elsewhere.has(line),
      horizon as Instant,
    );
    for (const line of changed.keys()) if (elsewhere.has(line)) throw new Error('A line of others is changed');
    for (const [line, stretches] of changed) {
      const before = (this.lines.get(line) ?? []).flatMap((one): LineStretch[] =>
        one.during.from >= horizon
          ? []
          : [{ ...one, during: interval(one.during.from, Math.min(endOf(one.during), horizon)) }],
      );
      this.lines.set(line, [...before, ...this.from(stretches, horizon)]);
    }
    const ids = new Map<number, number>();
    for (const [line, { stretches }] of begun) {
      ids.set(line, this.lines.size);
      this.lines.set(this.lines.size, stretches);
    }
    for (const { place, from } of wanted) {
      const laid = at.get(String(place));
      if (!laid) throw new Error('A place has no lines');
      const lines = Object.fromEntries(LINE_SLOTS.map((slot) => [slot, ids.get(laid[slot]) ?? laid[slot]]));
      const before = (this.rows.get(place) ?? []).flatMap((row): Row[] =>
        row.during.from >= from
          ? []
          : [{ ...row, during: interval(row.during.from, Math.min(endOf(row.during), from)) }],
      );
      this.rows.set(place, [...before, { during: interval(from, null), lines: lines as unknown as FrameLines }]);
    }
    return changed.size + begun.size;
  }

  at(place: number, instant: number): string | null {
    const row = this.rows.get(place)?.find(({ during }) => during.from <= instant && instant < endOf(during));
    if (!row) return null;
    const { parts, from, until } = partsOnLines(row.lines, this.lineOf, instant as Instant);
    if (instant < from || instant >= until) throw new Error('Said to hold at another time');
    return LINE_SLOTS.map((slot) => (parts[slot] ?? []).join('')).join('|');
  }
}

const frame = (words: readonly string[]): FrameParts =>
  Object.fromEntries(LINE_SLOTS.map((slot, n) => [slot, words[n] ? [words[n]] : []])) as unknown as FrameParts;
const few = fc.array(fc.constantFrom('', 'a', 'b'), { minLength: 5, maxLength: 5 });
const publication = fc.record({
  step: fc.integer({ min: 0, max: 4 }),
  cuts: fc.uniqueArray(fc.integer({ min: 1, max: END }), { maxLength: 3 }),
  contents: fc.array(few, { minLength: 2, maxLength: 2 }),
  due: fc.array(fc.record({ isDue: fc.boolean(), takes: fc.array(fc.nat(1), { minLength: 4, maxLength: 4 }) }), {
    minLength: PLACES.length,
    maxLength: PLACES.length,
  }),
  back: fc.nat(3),
});

describe('lines of frames', () => {
  it('show at each place and instant what was wanted there last, and what was before stays', () => {
    fc.assert(
      fc.property(fc.array(publication, { minLength: 1, maxLength: 6 }), (publications) => {
        const kept = new Kept();
        const wants = new Map<string, string | null>();
        let horizon = 0;
        for (const { step, cuts, contents, due, back } of publications) {
          horizon += step;
          const wanted = PLACES.flatMap((place) => {
            const { isDue = false, takes = [] } = due[place] ?? {};
            if (!isDue) return [];
            // One where nothing stands yet has a past.
            const from = kept.rows.get(place)?.length ? horizon : Math.max(0, horizon - back);
            const moments = [...new Set([from, ...cuts.filter((one) => one > from)])].sort((a, b) => a - b);
            const stretches = moments.map((one, n) => ({
              during: interval(one, moments[n + 1] ?? null),
              parts: frame(contents[takes[n] ?? 0] ?? []),
            }));
            for (const { during, parts } of stretches)
              for (let at = during.from as number; at < Math.min(END, endOf(during)); at++)
                wants.set(`${place} ${at}`, LINE_SLOTS.map((slot) => (parts[slot] ?? []).join('')).join('|'));
            return [{ place, from, stretches }];
          });
          kept.publish(wanted, horizon);
          for (const place of PLACES)
            for (let at = 0; at < END; at++) {
              const [got, want] = [kept.at(place, at), wants.get(`${place} ${at}`) ?? null];
              if (got !== want) expect({ place, at, got }).toEqual({ place, at, got: want });
            }
        }
      }),
      { numRuns: 400 },
    );
  });
  it('are one for all places where the same stands, so that a change of it is one', () => {
    const kept = new Kept();
    const all = (from: number, below: (place: number) => string) =>
      PLACES.map((place) => ({
        ...{ place, from },
        stretches: [{ during: interval(from, null), parts: frame(['', '', `head ${place}`, below(place), '']) }],
      }));
    const laid = (from: number, below: (place: number) => string) => kept.publish(all(from, below), from);
    laid(0, () => 'foot');
    expect(laid(5, () => 'foot two')).toBe(1);
    expect(laid(6, () => 'foot two')).toBe(0);
    // One that goes its own way begins a line; once it says the same again it comes back.
    expect(laid(7, (place) => (place === 3 ? 'own' : 'foot two'))).toBe(1);
    expect(laid(8, () => 'foot three')).toBe(1);
    expect(laid(9, () => 'foot four')).toBe(1);
  });
});
