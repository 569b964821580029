import { isbot } from 'isbot';

/** What an address gave a visitor, as figures count it; `choice`: not an answer, but that they said what may run. */
export const OUTCOMES = ['page', 'redirect', 'gone', 'not-found', 'choice'] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** One kind of event of one flush of an edge, as it lies in the spool. No visitor's address is in it. */
export interface VisitLine {
  /** Day in the portfolio's zone, `YYYY-MM-DD`. */
  readonly day: string;
  readonly portfolioId: number;
  readonly host: string;
  readonly path: string;
  readonly outcome: Outcome;
  readonly pageId: number | null;
  readonly isBot: boolean;
  /** Answers given. */
  readonly count: number;
  /** Daily hashes of the visitors of a page, each once; empty for other outcomes and for bots. */
  readonly visitors: readonly string[];
}

/** Whether a user agent names a program that reads pages by itself (the list of the package isbot). */
export function isBotAgent(userAgent: string | undefined): boolean {
  return !userAgent || isbot(userAgent);
}

export interface Comparison {
  readonly current: number;
  readonly before: number;
  /** Relative change, `null` where there is nothing to compare with. */
  readonly change: number | null;
}

/** Sums of the last `length` days and of as many before, from daily figures in order of time. */
export function compareDays(daily: readonly number[], length: number): Comparison {
  const sum = (from: number, to: number) =>
    daily.slice(Math.max(0, from), Math.max(0, to)).reduce((total, count) => total + count, 0);
  const current = sum(daily.length - length, daily.length);
  const before = sum(daily.length - 2 * length, daily.length - length);
  return { current, before, change: before > 0 ? (current - before) / before : null };
}

/** "+38 %", "-4 %", or `null` where there is nothing to compare with. */
export function writeChange(change: number | null): string | null {
  if (change === null) return null;
  const percent = Math.round(change * 100);
  return `${percent > 0 ? '+' : percent < 0 ? '−' : '±'}${Math.abs(percent)} %`;
}

/** Below this address pages tell what a visitor chose: `measuring=1&advertising=0`. It says nothing of who. */
export const CHOICE_PATH = '/-/choice/';
const CHOICE = /^\/-\/choice\/(measuring|advertising)=[01](&advertising=[01])?$/;
export const isChoice = (path: string): boolean => CHOICE.test(path);

/** How often visitors were asked about a purpose and allowed it, or did not. */
export interface ChoicesMade {
  readonly purpose: 'measuring' | 'advertising';
  readonly allowed: number;
  readonly refused: number;
}

/** Choices by purpose, of how often each address of one was asked for. */
export function choicesMade(counts: readonly { readonly path: string; readonly count: number }[]): ChoicesMade[] {
  return (['measuring', 'advertising'] as const).flatMap((purpose) => {
    const sum = (said: '0' | '1') =>
      counts.reduce((all, { path, count }) => all + (path.includes(`${purpose}=${said}`) ? count : 0), 0);
    const [allowed, refused] = [sum('1'), sum('0')];
    return allowed + refused ? [{ purpose, allowed, refused }] : [];
  });
}
