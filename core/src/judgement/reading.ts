import * as chrono from 'chrono-node';
import { francAll } from 'franc-min';
import type { Instant } from '../time/index.js';

/** A day that is written out in a text, with its year. */
export interface DayInText {
  readonly blockId: string;
  readonly text: string;
  /** When it is over everywhere on earth (twelve hours behind UTC). */
  readonly overAt: Instant;
}

/** A text without a digit names no day with its year. */
const HAS_YEAR = /\b(?:19|20)\d\d\b/;
/** Readers of days, by what they can read: a text is read by the first that finds something. */
const READERS = [chrono.en.strict, chrono.de.strict, chrono.fr.strict, chrono.es.strict, chrono.nl.strict];

/** Days in a text that are sure: with day, month and year. Times, weekdays and "next week" say nothing lasting. */
export function daysIn(text: string, blockId: string): DayInText[] {
  if (!HAS_YEAR.test(text)) return [];
  for (const reader of READERS) {
    const days = reader.parse(text, new Date(0)).flatMap(({ text: said, start, end }) => {
      const last = end ?? start;
      if (!last.isCertain('day') || !last.isCertain('month') || !last.isCertain('year')) return [];
      const [year, month, day] = [last.get('year') ?? 0, last.get('month') ?? 1, last.get('day') ?? 1];
      return [{ blockId, text: said.trim(), overAt: (Date.UTC(year, month - 1, day + 1) + 12 * 3_600_000) as Instant }];
    });
    if (days.length) return days;
  }
  return [];
}

/** Fewer letters are in no language for sure. */
const LEAST_LETTERS = 200;
/** The next best language is at least so far behind, of 1. */
const AHEAD = 0.1;

/** ISO 639-1 by ISO 639-3, of the languages that are told apart; those which are too alike are one. */
export const SHORT: Readonly<Record<string, string>> = {
  ...{ eng: 'en', deu: 'de', fra: 'fr', spa: 'es', ita: 'it', por: 'pt', nld: 'nl', pol: 'pl', swe: 'sv', ron: 'ro' },
  ...{ ces: 'cs', hun: 'hu', rus: 'ru', ukr: 'uk', bel: 'be', bul: 'bg', tur: 'tr', vie: 'vi', ell: 'el', kor: 'ko' },
  ...{ jpn: 'ja', cmn: 'zh', arb: 'ar', pes: 'fa', urd: 'ur', heb: 'he', hin: 'hi', tha: 'th', ben: 'bn', tam: 'ta' },
};

const TOLD_APART = Object.keys(SHORT);

/** The language a text is written in; `null` where it is short, or could be another one too. */
export function languageOf(text: string): string | null {
  const letters = text.replace(/[^\p{L}\s]+/gu, ' ').trim();
  if (letters.length < LEAST_LETTERS) return null;
  const [first, second] = francAll(letters.slice(0, 1_000), { only: TOLD_APART });
  if (!first || first[0] === 'und' || (second && first[1] - second[1] < AHEAD)) return null;
  return SHORT[first[0]] ?? null;
}
