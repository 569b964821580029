import { fold } from '../text/index.js';
import type { RegisterTable } from './table.js';

/** How many letters of a word may be wrong: none in short words, where everything would be alike. */
const slips = (word: string) => (word.length >= 8 ? 2 : word.length >= 4 ? 1 : 0);

/** What finding needs of a table, made when somebody first finds: all texts as one, and its words. */
interface Index {
  /** The texts of all rows with a line end between them: one search over it is faster than one a row. */
  readonly joined: string;
  /** Where the text of each row begins, and the end of all. */
  readonly starts: Uint32Array;
  readonly words: readonly string[];
  /** The letters of each word as bits. */
  readonly letters: Uint32Array;
}

const indexes = new WeakMap<RegisterTable, Index>();

function indexOf(table: RegisterTable): Index {
  const known = indexes.get(table);
  if (known) return known;
  const words = new Set<string>();
  const starts = new Uint32Array(table.size + 1);
  table.texts.forEach((text, row) => {
    starts[row + 1] = (starts[row] as number) + text.length + 1;
    for (const word of text.split(/[^\p{L}\p{N}]+/u)) if (word) words.add(word);
  });
  const index = {
    joined: table.texts.join('\n'),
    starts,
    words: [...words],
    letters: Uint32Array.from(words, lettersOf),
  };
  indexes.set(table, index);
  return index;
}

/** Which letters a word has: one bit each for a to z, and one for each sixth of the other characters. */
function lettersOf(word: string): number {
  let bits = 0;
  for (let at = 0; at < word.length; at++) {
    const code = word.charCodeAt(at);
    bits |= 1 << (code >= 97 && code <= 122 ? code - 97 : 26 + (code % 6));
  }
  return bits >>> 0;
}

/**
 * For each row whether it holds every word that was typed, accents and case aside. A word that stands nowhere is taken
 * as mistyped: rows then count that have a word which begins alike but for a letter or two. `null` where nothing was
 * typed.
 */
export function foundRows(table: RegisterTable, typed: string): Uint8Array | null {
  const words = fold(typed).split(' ').map(withoutScheme).filter(Boolean);
  if (!words.length) return null;
  const index = indexOf(table);
  const found = new Uint8Array(table.size).fill(1);
  for (const word of words) {
    const holds = new Uint8Array(table.size);
    const alternatives = index.joined.includes(word) ? [word] : similarWords(index, word);
    for (const one of alternatives) markRows(index, one, holds);
    for (let row = 0; row < table.size; row++) found[row] = (found[row] as number) & (holds[row] as number);
  }
  return found;
}

/** An address as it stands in the bar of a browser, as rows hold it: without scheme, query, fragment and last slash. */
const withoutScheme = (word: string) =>
  /^https?:\/\//.test(word) || /^[^/]+\.[^/]+\//.test(word)
    ? word
        .replace(/^https?:\/\//, '')
        .replace(/[?#].*$/, '')
        .replace(/\/+$/, '')
    : word;

/** Marks the rows whose text holds a word. */
function markRows({ joined, starts }: Index, word: string, holds: Uint8Array): void {
  let row = 0;
  for (let at = joined.indexOf(word); at >= 0; at = joined.indexOf(word, starts[row])) {
    while ((starts[row + 1] as number) <= at) row++;
    holds[row++] = 1;
    if (row >= holds.length) return;
  }
}

/** Words that begin like `word` but for the slips it may have. */
function similarWords({ words, letters }: Index, word: string): string[] {
  const allowed = slips(word);
  if (!allowed) return [];
  const own = lettersOf(word);
  return words.filter((other, at) => {
    // Each letter the other word lacks altogether is a slip already.
    let missing = own & ~(letters[at] as number);
    for (let slip = 0; slip < allowed && missing; slip++) missing &= missing - 1;
    return missing === 0 && prefixDistance(word, other, allowed) <= allowed;
  });
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
