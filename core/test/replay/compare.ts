import type { PageId } from '../../src/plan/index.js';
import { resolve, type RouteTable } from '../../src/routing/index.js';
import { joinPath } from '../../src/address/index.js';
import type { Drawn } from './acts.js';
import { answersIn, begin, replay, type Answers } from './naive.js';
import { at, decide, END, firstState, HOSTS, ids, PATHS, SITES, table, type Act, type State } from './world.js';

/** Every place a page can lie at, by any address of a site, and one of each host where nothing lies. */
export const PLACES = [
  ...new Set(
    SITES.flatMap(({ hostId, basePath }) =>
      [...PATHS, '/none'].map((path) => `${HOSTS[hostId - 1] as string}${joinPath(basePath, path)}`),
    ),
  ),
].map((key) => {
  const slash = key.indexOf('/');
  return { key, host: key.slice(0, slash), path: key.slice(slash) };
});

export function shown(routes: RouteTable, place: { host: string; path: string }, t: number): string {
  const got = resolve(routes, place, at(t));
  switch (got.kind) {
    case 'page':
      return `page ${got.pageId} r${got.revisionId}`;
    case 'redirect':
      return got.to.kind === 'outside' ? `out ${got.to.url}` : `to ${got.to.host}${got.to.path}`;
    case 'not-found':
      return 'not found';
    default:
      return got.kind;
  }
}

/** All answers from a minute on, a row a minute. */
export const shownFrom = (routes: RouteTable, from = 0): string[] => rows(from, (place, t) => shown(routes, place, t));
export const plainFrom = (answers: Answers, from = 0): string[] => rows(from, ({ key }, t) => answers.at(key, t));

const rows = (from: number, answer: (place: (typeof PLACES)[number], t: number) => string) =>
  Array.from({ length: END - from }, (_, i) => {
    const t = from + i;
    return PLACES.map((place) => `${t} ${place.key}: ${answer(place, t)}`).join('\n');
  });

/** A step of a replay: what was tried, and the states before and after where it was done. */
export interface Played {
  readonly act: Act;
  readonly now: number;
  readonly before: State;
  readonly after: State;
}

/**
 * Plays acts through the real functions and through the naive replay side by side. Gives what was done, and the first
 * thing in which they differ; nothing is planned at or behind the last minute.
 */
export function play(pages: readonly PageId[], acts: readonly Drawn[]): { done: Played[]; difference: string | null } {
  let state = firstState(pages);
  let world = begin(pages);
  let now = 0;
  const nextId = ids();
  const done: Played[] = [];
  for (const { step, draw } of acts) {
    now += step;
    if (now >= END - 14) break;
    const drawn = draw(now);
    // Whichever page is in the bin is the one to restore.
    const [binned = 1 as PageId] = state.binned.keys();
    const act = drawn.kind === 'restore' ? { ...drawn, page: binned } : drawn;
    const decision = decide(state, act, now, nextId);
    if (decision.kind === 'refused') continue;
    const next = replay(world, act, now, decision.undone);
    const answers = answersIn(next);
    const told = () => `after ${JSON.stringify(act)} at ${now}`;
    if (answers.clash !== (decision.kind === 'clash')) return { done, difference: `pages on each other ${told()}` };
    if (decision.kind === 'clash') continue;
    const routes = table(decision.state.plans);
    const [real, plain] = [shownFrom(routes), plainFrom(answers)];
    const row = real.findIndex((one, t) => one !== plain[t]);
    if (row >= 0) return { done, difference: `${told()}\n${differing(real[row] ?? '', plain[row] ?? '')}` };
    done.push({ act, now, before: state, after: decision.state });
    [state, world] = [decision.state, next];
  }
  return { done, difference: null };
}

function differing(real: string, plain: string): string {
  const lines = plain.split('\n');
  return real
    .split('\n')
    .flatMap((line, i) => (line === lines[i] ? [] : [`real  ${line}\nnaive ${lines[i]}`]))
    .join('\n');
}
