import { fold } from '../text/index.js';
import type { RegisterTable } from './table.js';

/** How many letters of a word may be wrong: none in short words, where everything would be alike. */
const slips = (word: string) => (word.length >= 8 ? 2 : word.length >= 4 ? 1 : 0);

const vocabularies = new WeakMap<RegisterTable, readonly string[]>();

function vocabularyOf(table: RegisterTable): readonly string[] {
  const known = vocabularies.get(table);
  if (known) return known;
  const words = new Set<string>();
  for (const text of table.texts) for (const word of text.split(/[^\p{L}\p{N}]+/u)) if (word) words.add(word);
  const vocabulary = [...words];
  vocabularies.set(table, vocabulary);
  return vocabulary;
}

/**
 * For each row whether it holds every word that was typed, accents and case aside. A word that stands nowhere is taken
 * as mistyped: rows then count that have a word which begins alike but for a letter or two. `null` where nothing was
 * typed.
 */
export function foundRows(table: RegisterTable, typed: string): Uint8Array | null {
  const words = fold(typed).split(' ').filter(Boolean);
  if (!words.length) return null;
  const found = new Uint8Array(table.size).fill(1);
  for (const word of words) {
    const alternatives = isAnywhere(table, word) ? [word] : similarWords(table, word);
    for (let row = 0; row < table.size; row++) {
      if (!found[row]) continue;
      const text = table.texts[row] as string;
      if (!alternatives.some((one) => text.includes(one))) found[row] = 0;
    }
  }
  return found;
}

const isAnywhere = (table: RegisterTable, word: string) => table.texts.some((text) => text.includes(word));

/** Words of the table that begin like `word` but for the slips it may have. */
function similarWords(table: RegisterTable, word: string): string[] {
  const allowed = slips(word);
  return allowed ? vocabularyOf(table).filter((other) => prefixDistance(word, other, allowed) <= allowed) : [];
}

/**
 * The fewest letters to change, leave out, put in or swap that make `word` the beginning of `other` (optimal string
 * alignment, Damerau 1964, with a free end), or more than `most`.
 */
export function prefixDistance(word: string, other: string, most: number): number {
  const width = Math.min(other.length, word.length + most);
  let before: number[] = [];
  let row = Array.from({ length: width + 1 }, (_, at) => at);
  for (let i = 1; i <= word.length; i++) {
    const next = [i];
    for (let j = 1; j <= width; j++) {
      const cost = word[i - 1] === other[j - 1] ? 0 : 1;
      let best = Math.min((row[j] as number) + 1, (next[j - 1] as number) + 1, (row[j - 1] as number) + cost);
      if (i > 1 && j > 1 && word[i - 1] === other[j - 2] && word[i - 2] === other[j - 1])
        best = Math.min(best, (before[j - 2] as number) + 1);
      next.push(best);
    }
    if (Math.min(...next) > most) return most + 1;
    [before, row] = [row, next];
  }
  return Math.min(...row);
}
