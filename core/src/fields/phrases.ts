import { fold } from '../text/index.js';
import { wrong } from '../words/faults.js';
import type { Result } from './result.js';

export const MOST_PHRASES = 5;
export const LONGEST_PHRASE = 80;

/** Phrases a page is to be found by, from JSON: each once, none of them blank. */
export function phrasesFromJSON(json: unknown): Result<readonly string[]> {
  if (json === undefined || json === null) return { ok: true, value: [] };
  const fault = { path: '', ...wrong('phrases-many', { most: MOST_PHRASES, longest: LONGEST_PHRASE }) };
  if (!Array.isArray(json) || json.length > MOST_PHRASES) return { ok: false, faults: [fault] };
  const phrases = json.map((one: unknown) => (typeof one === 'string' ? one.trim().replace(/\s+/g, ' ') : ''));
  const isRight = phrases.every((one) => one !== '' && one.length <= LONGEST_PHRASE);
  const seen = new Set(phrases.map(fold));
  return isRight && seen.size === phrases.length ? { ok: true, value: phrases } : { ok: false, faults: [fault] };
}
