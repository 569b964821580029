import { groupBy } from '../plan/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';

/** Ids in order as distances, which take few digits, and back. */
export const distancesOf = (ids: Iterable<number>): number[] =>
  [...ids].sort((a, b) => a - b).map((id, at, all) => id - (all[at - 1] ?? 0));
export function idsOfDistances(distances: readonly number[]): Set<number> {
  let id = 0;
  return new Set(distances.map((distance) => (id += distance)));
}

/** Pages of which something holds over the same stretch of time; their ids in order, each as its distance from the one before. */
export interface WaysStretch {
  readonly from: number;
  /** `null`: without end. */
  readonly until: number | null;
  readonly ids: readonly number[];
}

/** Pages that are in a menu, and those that anything leads to that is live, over time. */
export interface RegisterWays {
  /** As far back as is known; before it, it is as it was then. */
  readonly since: number;
  readonly inMenu: readonly WaysStretch[];
  readonly linked: readonly WaysStretch[];
}

export const NO_WAYS: RegisterWays = { since: 0, inMenu: [], linked: [] };

/** Something holds of a page for a while. */
export interface Held {
  readonly id: number;
  readonly during: Interval;
}

/** Stretches from `since` on: those of a page that touch or overlap are one, and pages with the same one share it. */
export function waysOver(held: Iterable<Held>, since: Instant): WaysStretch[] {
  const byStretch = new Map<string, { from: number; until: number | null; ids: number[] }>();
  for (const [id, all] of groupBy([...held], (one) => one.id)) {
    const sorted = all
      .map(({ during }) => ({ from: Math.max(during.from, since), end: endOf(during) }))
      .filter(({ from, end }) => from < end)
      .sort((a, b) => a.from - b.from);
    const joined: { from: number; end: number }[] = [];
    for (const one of sorted) {
      const last = joined.at(-1);
      if (last && one.from <= last.end) last.end = Math.max(last.end, one.end);
      else joined.push({ ...one });
    }
    for (const { from, end } of joined) {
      const key = `${from} ${end}`;
      const known = byStretch.get(key) ?? { from, until: end === Infinity ? null : end, ids: [] };
      known.ids.push(id);
      byStretch.set(key, known);
    }
  }
  return [...byStretch.values()].map(({ from, until, ids }) => ({ from, until, ids: distancesOf(ids) }));
}

/** Pages by moment, as they are asked for while a moment is dragged: worked out anew only where they become others. */
export class WaysOfMoments {
  private known = { from: 0, until: 0, inMenu: new Set<number>(), linked: new Set<number>() };

  constructor(private readonly ways: RegisterWays) {}

  at(moment: number): { readonly inMenu: ReadonlySet<number>; readonly linked: ReadonlySet<number> } {
    const at = Math.max(moment, this.ways.since);
    if (this.known.from <= at && at < this.known.until) return this.known;
    let [from, until] = [0, Infinity];
    const pagesOf = (stretches: readonly WaysStretch[]) => {
      const pages = new Set<number>();
      for (const one of stretches) {
        const end = one.until ?? Infinity;
        for (const edge of [one.from, end])
          if (edge <= at) from = Math.max(from, edge);
          else until = Math.min(until, edge);
        if (one.from <= at && at < end) for (const id of idsOfDistances(one.ids)) pages.add(id);
      }
      return pages;
    };
    const [inMenu, linked] = [pagesOf(this.ways.inMenu), pagesOf(this.ways.linked)];
    this.known = { from, until, inMenu, linked };
    return this.known;
  }
}
