import { evidenceWords, type EvidenceCode, type EvidenceParams } from '../words/evidence.js';
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
  /** Names of menus, headers, footers and the like that lead to it now. */
  readonly ledFrom: readonly string[];
  /** Answers of the last 30 days at its address that were not a page, people only. */
  readonly askedInVain: number;
  /** What its address gives now. */
  readonly gives: 'page' | 'redirect' | 'gone' | 'not-found';
}

/** What a statement speaks for. */
export type SpeaksFor = 'keeping' | 'taking-off' | 'mending';

export interface Evidence {
  readonly speaksFor: SpeaksFor;
  readonly code: EvidenceCode;
  readonly params: object;
  readonly words: string;
}

function that<Code extends EvidenceCode>(
  speaksFor: SpeaksFor,
  code: Code,
  ...[params]: EvidenceParams<Code>
): Evidence {
  const said = { code, params: params ?? {} };
  return { speaksFor, ...said, words: evidenceWords(said) };
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

function liveEvidence({ now, recentVisits, lastVisit, linkedFrom, ledFrom }: PageFacts, live: Interval): Evidence[] {
  const quiet = Math.floor((now - Math.max(lastVisit ?? live.from, live.from)) / DAY);
  const statements: Evidence[] = [];
  if (recentVisits > 0) statements.push(that('keeping', 'visited', { visits: recentVisits }));
  else if (quiet >= QUIET_DAYS) statements.push(that('taking-off', 'quiet', { days: quiet }));
  const [led] = ledFrom;
  if (linkedFrom > 0) statements.push(that('keeping', 'linked', { pages: linkedFrom }));
  if (led !== undefined) statements.push(that('keeping', 'led', { name: led, more: ledFrom.length - 1 }));
  if (!linkedFrom && led === undefined && live.until === null) statements.push(that('taking-off', 'open-and-alone'));
  return statements;
}

function endedEvidence({ linkedFrom, askedInVain, gives }: PageFacts): Evidence[] {
  if (gives === 'page') return [];
  const isCaught = gives === 'redirect';
  const statements: Evidence[] = [];
  if (linkedFrom > 0)
    statements.push(
      isCaught
        ? that('keeping', 'linked-and-redirected', { pages: linkedFrom })
        : that('mending', 'linked-in-vain', { pages: linkedFrom }),
    );
  if (askedInVain > 0)
    statements.push(
      isCaught
        ? that('keeping', 'redirect-used', { times: askedInVain })
        : that('mending', 'asked-in-vain', { times: askedInVain }),
    );
  return statements.length ? statements : [that('taking-off', 'unmissed')];
}
