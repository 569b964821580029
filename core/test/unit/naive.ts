import type { Answer, PageId } from '../../src/plan/index.js';
import { END, HOSTS, PAGES, PATHS, type Act } from './world.js';

/** The rules of design section 4 replayed minute by minute, with nothing but arrays: slow, and plain to read. */
interface Entry {
  kind: 'afterwards' | 'move';
  page: PageId;
  start: number;
  rank: number;
  order: number;
  answer: Answer;
  place: string;
  on: boolean[];
}
interface Minute {
  revision: number;
  start: number;
}
export interface Naive {
  place: Map<PageId, string[]>;
  row: Map<PageId, number[]>;
  live: Map<PageId, (Minute | null)[]>;
  entries: Entry[];
  order: number;
}

const minutes = Array.from({ length: END }, (_, t) => t);
const end = (until: number | null) => until ?? END;

export function begin(): Naive {
  return {
    place: new Map(PAGES.map((page, i) => [page, minutes.map(() => HOSTS[i % 2] + (PATHS[i % 2] as string))])),
    row: new Map(PAGES.map((page) => [page, minutes.map(() => 0)])),
    live: new Map(PAGES.map((page) => [page, minutes.map(() => null)])),
    entries: [],
    order: 0,
  };
}

export function replay(old: Naive, act: Act): Naive | null {
  const world = structuredClone(old);
  const place = world.place.get(act.page) as string[];
  const live = world.live.get(act.page) as (Minute | null)[];
  if (act.kind === 'move') move(world, act, place, live);
  else paint(world, act, place, live);
  const clash = minutes.some((t) =>
    PAGES.some((a) =>
      PAGES.some(
        (b) =>
          a < b &&
          world.live.get(a)?.[t] &&
          world.live.get(b)?.[t] &&
          world.place.get(a)?.[t] === world.place.get(b)?.[t],
      ),
    ),
  );
  return clash ? null : world;
}

function paint(world: Naive, act: Exclude<Act, { kind: 'move' }>, place: string[], live: (Minute | null)[]): void {
  const from = act.from;
  const until = end(act.until);
  const isBack = act.kind === 'release' && act.afterwards === null && act.until !== null;
  for (const t of minutes) {
    const was = live[t];
    if (t >= from && t < until) live[t] = act.kind === 'release' ? { revision: act.revision, start: from } : null;
    else if (t >= until && was) live[t] = was.start >= until ? was : isBack ? { ...was, start: until } : null;
  }
  const endsAt = (t: number) => {
    const was = live[t - 1];
    return was && was.start >= until && live[t]?.start !== was.start;
  };
  world.entries = world.entries.filter((entry) => {
    if (entry.page !== act.page || entry.kind !== 'afterwards' || entry.start < from) return true;
    if (!isBack) return entry.start > until && entry.start < END && endsAt(entry.start);
    for (const t of minutes) if (t < until) entry.on[t] = false;
    entry.start = Math.max(entry.start, until);
    return entry.on.some(Boolean);
  });
  const start = act.kind === 'release' ? act.until : from;
  if (act.afterwards === null || start === null) return;
  add(
    world,
    'afterwards',
    act.page,
    start,
    act.afterwards,
    place[act.kind === 'release' ? start - 1 : start] as string,
  );
}

function move(world: Naive, act: Extract<Act, { kind: 'move' }>, place: string[], live: (Minute | null)[]): void {
  const old = place[act.at - 1] as string;
  const to = HOSTS[act.site - 1] + act.path;
  // A later planned move stays: only the minutes of the row that holds at the instant change.
  const rows = world.row.get(act.page) as number[];
  const leaving = rows[act.at];
  for (const t of minutes)
    if (t >= act.at && rows[t] === leaving) {
      place[t] = to;
      rows[t] = 1000 * (1 + world.order) + act.at;
    }
  world.order++;
  for (const entry of world.entries)
    if (entry.page === act.page && entry.kind === 'afterwards' && entry.start > act.at)
      entry.place = place[entry.start - 1] as string;
  if (live[act.at - 1] && old !== to)
    add(
      world,
      'move',
      act.page,
      act.at,
      { kind: 'redirect', target: { kind: 'page', pageId: act.page }, status: 301 },
      old,
    );
}

function add(world: Naive, kind: Entry['kind'], page: PageId, start: number, answer: Answer, place: string): void {
  world.entries.push({
    kind,
    page,
    start,
    rank: start,
    order: ++world.order,
    answer,
    place,
    on: minutes.map((t) => t >= start),
  });
}

/** What a visitor gets at a place in a minute, as a word. */
export function answerAt(world: Naive, place: string, t: number, met: PageId[] = []): string {
  for (const page of PAGES) {
    const live = world.live.get(page)?.[t];
    if (live && world.place.get(page)?.[t] === place)
      return met.length ? `to ${place}` : `page ${page} r${live.revision}`;
  }
  const [top] = world.entries
    .filter((entry) => entry.place === place && entry.on[t])
    .sort((a, b) => b.rank - a.rank || (a.kind === b.kind ? 0 : a.kind === 'afterwards' ? -1 : 1) || b.order - a.order);
  if (!top || top.answer.kind === 'not-found') return 'not found';
  if (top.answer.kind === 'gone') return 'gone';
  const { target } = top.answer;
  if (target.kind === 'outside') return `out ${target.url}`;
  if (met.includes(target.pageId)) return 'not found';
  return answerAt(world, world.place.get(target.pageId)?.[t] as string, t, [...met, target.pageId]);
}
