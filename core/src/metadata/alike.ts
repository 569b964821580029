import { fold } from '../text/index.js';

/** Whether two titles or descriptions say the same, or nearly. */
export type Likeness = 'same' | 'near';

/** A page with the same title or description as another, or nearly the same, or that is to be found by the same. */
export interface AlikePage {
  readonly pageId: number;
  readonly name: string;
  readonly address: string;
  /** A phrase that it aims at too is the same. */
  readonly what: 'title' | 'description' | 'phrase';
  readonly phrase?: string;
  readonly likeness: Likeness;
}

/** A text made ready to be compared with many. */
export interface Worded {
  /** Letters and digits alone, without case and accents. */
  readonly plain: string;
  readonly words: ReadonlySet<string>;
}

export function worded(text: string): Worded {
  const plain = fold(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
  return { plain, words: new Set(plain ? plain.split(' ') : []) };
}

/** Texts of fewer words differ where one word does. */
const LEAST_WORDS = 4;
/** Of all words of two texts so many are in both where they are nearly the same (Jaccard index). */
export const NEAR = 0.75;

/** `null` where they differ, and of texts that say nothing. */
export function likenessOf(a: Worded, b: Worded): Likeness | null {
  if (!a.plain || !b.plain) return null;
  if (a.plain === b.plain) return 'same';
  const [few, many] = a.words.size < b.words.size ? [a.words, b.words] : [b.words, a.words];
  if (few.size < LEAST_WORDS || few.size < NEAR * many.size) return null;
  let shared = 0;
  for (const word of few) if (many.has(word)) shared += 1;
  return shared / (few.size + many.size - shared) >= NEAR ? 'near' : null;
}
