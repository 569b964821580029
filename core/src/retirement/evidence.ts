import { contains, DAY, type Instant, type Interval } from '../time/index.js';

/** What is known of a page, all of it up to `now`. */
export interface PageFacts {
  readonly now: Instant;
  /** Its periods, past and planned, in order. */
  readonly periods: readonly Interval[];
  /** Visits in the last 30 days. */
  readonly recentVisits: number;
  /** The last day with a visit, as the start of that day; `null` where none is on record. */
  readonly lastVisit: Instant | null;
  /** Live pages that link to it. */
  readonly linkedFrom: number;
  /** Answers of the last 30 days at its address that were not a page, people only. */
  readonly askedInVain: number;
  /** What its address gives now. */
  readonly gives: 'page' | 'redirect' | 'gone' | 'not-found';
}

/** What a statement speaks for. */
export type SpeaksFor = 'keeping' | 'taking-off' | 'mending';

export interface Evidence {
  readonly speaksFor: SpeaksFor;
  readonly words: string;
}

/** Days without a visit after which a live page is taken for one that nobody needs. */
export const QUIET_DAYS = 90;

/** Statements on whether a page is still needed, the most telling first. Empty for a page that never was live. */
export function evidenceOf(facts: PageFacts): Evidence[] {
  const { now, periods } = facts;
  const live = periods.find((period) => contains(period, now));
  if (live) return liveEvidence(facts, live);
  const ended = periods.filter(({ until }) => until !== null && until <= now);
  const isPlanned = periods.some(({ from }) => from > now);
  return ended.length && !isPlanned ? endedEvidence(facts) : [];
}

function liveEvidence({ now, recentVisits, lastVisit, linkedFrom }: PageFacts, live: Interval): Evidence[] {
  const quiet = Math.floor((now - Math.max(lastVisit ?? live.from, live.from)) / DAY);
  const statements: Evidence[] = [];
  if (recentVisits > 0)
    statements.push({ speaksFor: 'keeping', words: `${count(recentVisits, 'visit')} in the last 30 days` });
  else if (quiet >= QUIET_DAYS)
    statements.push({ speaksFor: 'taking-off', words: `No visit for ${quiet} days, while it was live` });
  if (linkedFrom > 0)
    statements.push({ speaksFor: 'keeping', words: `${count(linkedFrom, 'live page')} ${linksHere(linkedFrom)} here` });
  else if (live.until === null)
    statements.push({ speaksFor: 'taking-off', words: 'Live with no end planned, and no live page links here' });
  return statements;
}

function endedEvidence({ linkedFrom, askedInVain, gives }: PageFacts): Evidence[] {
  if (gives === 'page') return [];
  const isCaught = gives === 'redirect';
  const statements: Evidence[] = [];
  if (linkedFrom > 0)
    statements.push({
      speaksFor: isCaught ? 'keeping' : 'mending',
      words: isCaught
        ? `${count(linkedFrom, 'live page')} still ${linksHere(linkedFrom)} here: keep the redirect, or change the links`
        : `${count(linkedFrom, 'live page')} still ${linksHere(linkedFrom)} here, and visitors get nothing`,
    });
  if (askedInVain > 0)
    statements.push({
      speaksFor: isCaught ? 'keeping' : 'mending',
      words: isCaught
        ? `Its redirect was used ${count(askedInVain, 'time')} in the last 30 days`
        : `Asked for ${count(askedInVain, 'time')} in the last 30 days, with nothing to show: send visitors somewhere`,
    });
  if (!statements.length)
    statements.push({
      speaksFor: 'taking-off',
      words: 'Ended, not linked from any live page, and no requests in 30 days',
    });
  return statements;
}

const count = (n: number, what: string) => `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;
const linksHere = (n: number) => (n === 1 ? 'links' : 'link');
