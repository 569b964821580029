import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { isSameResolution, nextFlipAfter, resolve } from '../../src/routing/index.js';
import { worlds } from '../replay/acts.js';
import { play, PLACES, shownFrom } from '../replay/compare.js';
import { at, END, firstPlans, table } from '../replay/world.js';

const lastOf = (done: ReturnType<typeof play>['done'], pages: Parameters<typeof firstPlans>[0]) =>
  table(done.at(-1)?.after.plans ?? firstPlans(pages));

describe('every act of the product', () => {
  it('gives at every address and minute what a minute-by-minute replay gives (rules 1 to 3, 6 to 8)', () => {
    fc.assert(
      fc.property(worlds(12), ({ pages, acts }) => {
        expect(play(pages, acts).difference).toBeNull();
      }),
      { numRuns: 700, seed: 20261128, endOnFailure: true },
    );
  });

  it('changes no answer before the instant it is decided at (rule 5)', () => {
    fc.assert(
      fc.property(worlds(10), ({ pages, acts }) => {
        for (const { before, after, now } of play(pages, acts).done)
          expect(shownFrom(table(after.plans)).slice(0, now)).toEqual(shownFrom(table(before.plans)).slice(0, now));
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });

  it('answers every redirect in one hop, and never with a redirect to itself (rule 3)', () => {
    fc.assert(
      fc.property(worlds(12), ({ pages, acts }) => {
        const routes = lastOf(play(pages, acts).done, pages);
        const hops = Array.from({ length: END }, (_, t) =>
          PLACES.filter((place) => {
            const got = resolve(routes, place, at(t));
            return (
              got.kind === 'redirect' && got.to.kind === 'address' && resolve(routes, got.to, at(t)).kind !== 'page'
            );
          }),
        );
        expect(hops.flat()).toEqual([]);
      }),
      { numRuns: 100, endOnFailure: true },
    );
  });

  it('knows the next flip: nothing changes before it, something does at it', () => {
    fc.assert(
      fc.property(worlds(8), fc.integer({ min: 0, max: END - 2 }), ({ pages, acts }, now) => {
        const routes = lastOf(play(pages, acts).done, pages);
        const differs = (t: number) =>
          PLACES.some((place) => !isSameResolution(resolve(routes, place, at(t - 1)), resolve(routes, place, at(t))));
        const naive = Array.from({ length: END - now }, (_, i) => now + 1 + i).find(differs) ?? null;
        expect(nextFlipAfter(routes, at(now))).toBe(naive);
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });
});
