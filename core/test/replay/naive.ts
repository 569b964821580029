import { isBelow, joinPath, pathBelow } from '../../src/address/index.js';
import type { Answer, PageId, SiteAddress } from '../../src/plan/index.js';
import { endOf } from '../../src/time/index.js';
import { END, HOSTS, PATHS, SITE_COUNT, SITES, type Act } from './world.js';

/** The rules of design section 4 replayed minute by minute, with nothing but arrays: slow, and plain to read. */
interface Spot {
  readonly site: number;
  readonly path: string;
}
interface Minute {
  readonly revision: number;
  /** The period it belongs to: what is cut in two stays one, with its own first end. */
  readonly period: Period;
}
interface Period {
  readonly start: number;
  /** Its own end, when it was planned, and what that leaves. */
  readonly end: number;
  readonly leaves: { readonly answer: Answer; readonly order: number } | null;
}
interface Said {
  readonly at: number;
  readonly answer: Answer;
  readonly order: number;
  readonly place: string | null;
}
/** An answer that is settled: nothing but an undo changes it any more. */
interface Settled {
  readonly pageId: PageId;
  readonly kind: 'afterwards' | 'move';
  readonly rank: number;
  readonly order: number;
  readonly answer: Answer;
  readonly place: string;
  readonly on: readonly boolean[];
}
export interface NaivePage {
  readonly spot: Spot[];
  /** A move that is planned for a minute, with what it leaves (`null`: to follow the page). */
  readonly moves: Map<number, { answer: Answer | null; order: number }>;
  readonly live: (Minute | null)[];
  readonly said: Said[];
  readonly settled: Settled[];
  /** Everything before this minute is settled. */
  readonly settledTo: number;
}
export interface Naive {
  readonly pages: Map<PageId, NaivePage>;
  /** How a page was before each act, and what it had before the bin where it was there. */
  readonly done: readonly { readonly before: NaivePage; readonly stay: NaivePage | null }[];
  readonly binned: Map<PageId, NaivePage>;
  readonly order: number;
}

const minutes = Array.from({ length: END }, (_, t) => t);
const ending = (until: number | null) => until ?? END;

export function begin(pages: readonly PageId[]): Naive {
  return {
    pages: new Map(
      pages.map((page, i) => [
        page,
        {
          spot: minutes.map(() => ({ site: (i % SITE_COUNT) + 1, path: PATHS[i % 2] as string })),
          moves: new Map(),
          live: minutes.map(() => null),
          said: [],
          settled: [],
          settledTo: 0,
        },
      ]),
    ),
    done: [],
    binned: new Map(),
    order: 0,
  };
}

const holds = ({ during }: SiteAddress, t: number) => during.from <= t && t < endOf(during);
const hostName = ({ hostId }: SiteAddress) => HOSTS[hostId - 1] as string;

/** Where a page lies in a minute, as host and path. */
function placeOf(page: NaivePage, t: number): string | null {
  const { site, path } = page.spot[t] as Spot;
  const primary = SITES.find((one) => one.siteId === site && one.isPrimary && holds(one, t));
  return primary ? hostName(primary) + joinPath(primary.basePath, path) : null;
}

/** What ends and moves leave and what is said, from minute `from` to minute `to` (both inclusive), as settled answers. */
function arising(page: NaivePage, pageId: PageId, from: number, to: number): Settled[] {
  const found: Settled[] = [];
  const open = (t: number) => minutes.map((minute) => minute >= t);
  for (let t = Math.max(1, from); t <= Math.min(to, END - 1); t++) {
    const was = page.live[t - 1];
    const old = placeOf(page, t - 1);
    const left = was && page.live[t]?.period !== was.period && was.period.end === t ? was.period.leaves : null;
    if (left && old) found.push({ pageId, kind: 'afterwards', rank: t, ...left, place: old, on: open(t) });
    const move = page.moves.get(t);
    if (move && was && old && old !== placeOf(page, t)) {
      const answer: Answer = move.answer ?? { kind: 'redirect', target: { kind: 'page', pageId }, status: 301 };
      found.push({ pageId, kind: 'move', rank: t, order: move.order, answer, place: old, on: open(t) });
    }
    for (const said of page.said.filter((one) => one.at === t)) {
      const place = said.place ?? placeOf(page, t);
      if (place)
        found.push({ pageId, kind: 'afterwards', rank: t, order: said.order, answer: said.answer, place, on: open(t) });
    }
  }
  return found;
}

/** The page with everything before a minute settled. */
function settle(page: NaivePage, pageId: PageId, to: number): NaivePage {
  const fresh = arising(page, pageId, page.settledTo, to - 1);
  return { ...page, settled: [...page.settled, ...fresh], settledTo: Math.max(to, page.settledTo) };
}

/** The world after an act that is decided at `now`; pages may lie on each other after it, which is for others to refuse. */
export function replay(world: Naive, act: Act, now: number, undone: { n: number; page: PageId } | null): Naive {
  const order = world.order + 1;
  const pageId = act.kind === 'undo' ? (undone as { page: PageId }).page : act.page;
  const page = settle(structuredClone(world.pages.get(pageId) as NaivePage), pageId, now);
  const was = act.kind === 'undo' ? world.done[(undone as { n: number }).n] : undefined;
  const binned = new Map(world.binned);
  if (act.kind === 'bin') binned.set(pageId, world.pages.get(pageId) as NaivePage);
  if (act.kind === 'restore' || act.kind === 'undo') binned.delete(pageId);
  if (was?.stay) binned.set(pageId, was.stay);
  const before = () => structuredClone(was?.before as NaivePage);
  const next =
    act.kind === 'undo'
      ? back(before(), page, pageId, now, act.leavesRedirect, order)
      : act.kind === 'restore'
        ? act.isPlanned
          ? back(structuredClone(world.binned.get(pageId) as NaivePage), page, pageId, now, false, order)
          : page
        : changed(page, act, now, order);
  const stay = world.binned.get(pageId) ?? null;
  const done = [...world.done, { before: world.pages.get(pageId) as NaivePage, stay }];
  return { pages: new Map(world.pages).set(pageId, next), done, binned, order };
}

function changed(
  page: NaivePage,
  act: Exclude<Act, { kind: 'undo' | 'restore' }>,
  now: number,
  order: number,
): NaivePage {
  switch (act.kind) {
    case 'release': {
      const leaves = act.until === null || act.afterwards === null ? null : { answer: act.afterwards, order };
      const period = { start: act.from, end: ending(act.until), leaves };
      const isBack = act.until !== null && act.afterwards === null;
      return paint(page, act.from, ending(act.until), { revision: act.revision, period }, isBack);
    }
    case 'off':
      return off(page, act.from, ending(act.until), act.afterwards, order);
    case 'bin':
      return page.live.some((minute, t) => minute && t >= now) ? off(page, now, END, act.answer, order) : page;
    case 'move': {
      const stop = [...page.moves.keys()].filter((t) => t > act.at).sort((a, b) => a - b)[0] ?? END;
      for (const t of minutes) if (t >= act.at && t < stop) page.spot[t] = { site: act.site, path: act.path };
      page.moves.set(act.at, { answer: act.leaves, order });
      // A move that leads where the page is already is none.
      for (const t of [act.at, stop]) if (isSpot(page.spot[t], page.spot[t - 1])) page.moves.delete(t);
      return page;
    }
    case 'shift':
      return shifted(page, now, act.by);
    case 'afterwards':
      return afterwards(page, now, act.answer, order);
  }
}

const isSpot = (a: Spot | undefined, b: Spot | undefined) => a?.site === b?.site && a?.path === b?.path;

function off(page: NaivePage, from: number, until: number, answer: Answer, order: number): NaivePage {
  const painted = paint(page, from, until, null, false);
  return { ...painted, said: [...painted.said, { at: from, answer, order, place: null }] };
}

function paint(page: NaivePage, from: number, until: number, minute: Minute | null, isBack: boolean): NaivePage {
  // What comes back behind the paint counts as planned to start there.
  const resumed = new Map<Period, Period>();
  const resume = (was: Minute): Minute => {
    if (was.period.start >= until) return was;
    const period = resumed.get(was.period) ?? { ...was.period, start: until };
    resumed.set(was.period, period);
    return { ...was, period };
  };
  const live = page.live.map((was, t) => {
    if (t >= from && t < until) return minute;
    if (t < until || !was) return was;
    return was.period.start >= until || isBack ? resume(was) : null;
  });
  const said = page.said.filter(({ at }) => {
    if (at < from) return true;
    if (at < until) return false;
    const was = live[at - 1];
    return (
      isBack || (was !== undefined && was !== null && was.period.start >= until && live[at]?.period !== was.period)
    );
  });
  return { ...page, live, said };
}

function shifted(page: NaivePage, now: number, by: number): NaivePage {
  const runs = runsOf(page);
  const later = (t: number) => (t > now && t < END ? t + by : t);
  const live = minutes.map((): Minute | null => null);
  for (const { from, until, minute } of runs) {
    const { leaves, start, end } = minute.period;
    // What was cut has lost its own end, wherever that would be.
    const period = { start: later(start), end: until === end ? later(end) : -1, leaves };
    for (let t = later(from); t < later(until); t++) if (t < END) live[t] = { revision: minute.revision, period };
  }
  return { ...page, live, said: page.said.map((one) => ({ ...one, at: later(one.at) })) };
}

function runsOf(page: NaivePage) {
  const runs: { from: number; until: number; minute: Minute }[] = [];
  for (const t of minutes) {
    const minute = page.live[t];
    const last = runs.at(-1);
    if (!minute) continue;
    if (last && last.until === t && last.minute.period === minute.period) last.until = t + 1;
    else runs.push({ from: t, until: t + 1, minute });
  }
  return runs;
}

function afterwards(page: NaivePage, now: number, answer: Answer, order: number): NaivePage {
  const last = runsOf(page).at(-1);
  if (!last || last.until === END) return page;
  const from = Math.max(last.until, now);
  const said = page.said.filter(({ at }) => at < from);
  if (last.until > now) {
    const period = { ...last.minute.period, end: last.until, leaves: { answer, order } };
    const live = page.live.map((was, t) => (was && t >= last.from ? { ...was, period } : was));
    return { ...page, live, said };
  }
  const [ended, here] = [placeOf(page, last.until - 1), placeOf(page, now)];
  if (here) said.push({ at: now, answer, order, place: null });
  if (ended && ended !== here) said.push({ at: now, answer, order: order + 0.5, place: ended });
  return { ...page, said };
}

/** From `now` on as it was in `old`, and before as it is. */
function back(
  old: NaivePage,
  page: NaivePage,
  pageId: PageId,
  now: number,
  leavesRedirect: boolean,
  order: number,
): NaivePage {
  // What would have arisen at this very minute by itself belongs to what comes back.
  const there = settle(old, pageId, now + 1);
  const spliced = <T>(past: readonly T[], future: readonly T[]) =>
    minutes.map((t) => (t < now ? past : future)[t] as T);
  const next: NaivePage = {
    spot: spliced(page.spot, there.spot),
    live: spliced(page.live, there.live),
    moves: new Map([...page.moves].filter(([t]) => t < now).concat([...there.moves].filter(([t]) => t > now))),
    said: there.said.filter(({ at }) => at > now),
    settled: [
      ...page.settled.map((one) => ({ ...one, on: one.on.map((is, t) => is && t < now) })),
      ...there.settled.map((one) => ({ ...one, on: one.on.map((is, t) => is && t >= now) })),
    ],
    settledTo: now + 1,
  };
  const [served, place] = [placeOf(page, now - 1), placeOf(next, now)];
  if (!leavesRedirect || !page.live[now - 1] || !served || served === place) return next;
  // A move that was planned for this very minute leaves what was chosen for it.
  if (there.settled.some((one) => one.kind === 'move' && one.rank === now && one.place === served)) return next;
  const move = page.moves.get(now);
  const answer: Answer = move?.answer ?? { kind: 'redirect', target: { kind: 'page', pageId }, status: 301 };
  const left = { pageId, kind: 'move', rank: now, order: move?.order ?? order, answer, place: served } as const;
  return { ...next, settled: [...next.settled, { ...left, on: minutes.map((t) => t >= now) }] };
}

/** Everything a visitor can meet, by place: worked out once a world. */
export interface Answers {
  at(place: string, t: number): string;
  readonly clash: boolean;
}

export function answersIn(world: Naive): Answers {
  const pages = [...world.pages];
  const entries = pages.flatMap(([id, page]) => [...page.settled, ...arising(page, id, page.settledTo, END - 1)]);
  const liveAt = (place: string, t: number) =>
    pages.filter(([, page]) => page.live[t] && placeOf(page, t) === place).map(([id, page]) => ({ id, page }));
  const clash = minutes.some((t) => {
    const taken = pages.flatMap(([, page]) => (page.live[t] ? (placeOf(page, t) ?? []) : [])).flat();
    return new Set(taken).size < taken.length;
  });
  /** `round`: a circle in which somebody chose a redirect; one of what moves left alone gives not found. */
  const at = (place: string, t: number, met: readonly string[] = [], chosen: readonly string[] = []): string => {
    if (met.includes(place))
      return met.slice(met.indexOf(place)).some((one) => chosen.includes(one)) ? 'round' : 'not found';
    const [live] = liveAt(place, t);
    if (live) return met.length ? `to ${place}` : `page ${live.id} r${live.page.live[t]?.revision}`;
    const [top] = entries
      .filter((entry) => entry.place === place && entry.on[t])
      .sort(
        (a, b) => b.rank - a.rank || (a.kind === b.kind ? 0 : a.kind === 'afterwards' ? -1 : 1) || b.order - a.order,
      );
    if (!top) return underPrimary(place, t, met, chosen);
    if (top.answer.kind === 'not-found') return 'not found';
    if (top.answer.kind === 'gone') return 'gone';
    const { target } = top.answer;
    const way = [...met, place];
    const isOwn = target.kind === 'page' && target.pageId === top.pageId;
    const picked = isOwn ? chosen : [...chosen, place];
    if (target.kind === 'outside') {
      const own = HOSTS.find((host) => target.url.startsWith(`https://${host}/`));
      return own ? at(target.url.slice('https://'.length), t, way, picked) : `out ${target.url}`;
    }
    const there = placeOf(world.pages.get(target.pageId) as NaivePage, t);
    return there ? at(there, t, way, picked) : 'not found';
  };
  const underPrimary = (place: string, t: number, met: readonly string[], chosen: readonly string[]): string => {
    const slash = place.indexOf('/');
    const [host, path] = [place.slice(0, slash), place.slice(slash)];
    const [site] = SITES.filter((one) => hostName(one) === host && isBelow(one.basePath, path) && holds(one, t)).sort(
      (a, b) => b.basePath.length - a.basePath.length,
    );
    if (!site || site.isPrimary) return 'not found';
    const primary = SITES.find((one) => one.siteId === site.siteId && one.isPrimary && holds(one, t));
    if (!primary) return 'not found';
    return at(
      hostName(primary) + joinPath(primary.basePath, pathBelow(site.basePath, path)),
      t,
      [...met, place],
      chosen,
    );
  };
  return { at: (place, t) => at(place, t), clash };
}
