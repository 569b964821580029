import { found, type Finding } from '../checks/finding.js';
import { likenessOf, NEAR, worded, type Worded } from '../metadata/index.js';
import type { PageId } from '../plan/index.js';

/** So many pages that are nearly the same are looked for; a family of thousands is told by its first. */
const MOST_NEAR = 20;
/** So many pages are named. */
const NAMED = 3;

/** Pages that say the same as one, and nearly the same. */
export interface Alike {
  readonly same: readonly PageId[];
  readonly near: readonly PageId[];
}
const NONE: Alike = { same: [], near: [] };

/** Texts by what they say, each found again from any other that is alike. */
export interface Index<Text> {
  put(id: PageId, text: Text | null): void;
  of(id: PageId): Alike;
}

/** Adds to and takes from lists by key; a list that nobody is in any more is none. */
class Lists<Key> {
  private readonly lists = new Map<Key, Set<PageId>>();
  add(key: Key, id: PageId): void {
    const list = this.lists.get(key);
    if (list) list.add(id);
    else this.lists.set(key, new Set([id]));
  }
  remove(key: Key, id: PageId): void {
    const list = this.lists.get(key);
    if (list?.delete(id) && !list.size) this.lists.delete(key);
  }
  of(key: Key): ReadonlySet<PageId> {
    return this.lists.get(key) ?? new Set();
  }
}

/**
 * Titles or descriptions. Two that share three quarters of their words share one of the first few of each, whatever order
 * all words have: only those are compared (prefix filtering; Chaudhuri, Ganti, Kaushik, ICDE 2006). Words are in the order
 * of how rare they were when the first many came, so that the first few are rare.
 */
export class WordIndex implements Index<Worded> {
  private readonly texts = new Map<PageId, { readonly text: Worded; readonly first: readonly string[] }>();
  private readonly byPlain = new Lists<string>();
  private readonly byWord = new Lists<string>();
  private readonly ranks = new Map<string, number>();

  constructor(first: Iterable<Worded> = []) {
    const counts = new Map<string, number>();
    for (const { words } of first) for (const word of words) counts.set(word, (counts.get(word) ?? 0) + 1);
    for (const [word, count] of counts) this.ranks.set(word, count);
  }

  put(id: PageId, text: Worded | null): void {
    const before = this.texts.get(id);
    if (before) {
      this.byPlain.remove(before.text.plain, id);
      for (const word of before.first) this.byWord.remove(word, id);
      this.texts.delete(id);
    }
    if (!text?.plain) return;
    const words = [...text.words].sort((a, b) => this.rank(a) - this.rank(b) || (a < b ? -1 : 1));
    const first = words.slice(0, words.length - Math.ceil(NEAR * words.length) + 1);
    this.texts.set(id, { text, first });
    this.byPlain.add(text.plain, id);
    for (const word of first) this.byWord.add(word, id);
  }

  /** A word that came later is rare. */
  private rank(word: string): number {
    return this.ranks.get(word) ?? 0;
  }

  of(id: PageId): Alike {
    const own = this.texts.get(id);
    if (!own) return NONE;
    const same = [...this.byPlain.of(own.text.plain)].filter((one) => one !== id);
    const near = new Set<PageId>();
    for (const word of own.first)
      for (const one of this.byWord.of(word)) {
        if (near.size >= MOST_NEAR) return { same, near: [...near] };
        const other = this.texts.get(one);
        if (other && one !== id && likenessOf(own.text, other.text) === 'near') near.add(one);
      }
    return { same, near: [...near] };
  }
}

/** What a text says in short: the least of many hashes of its runs of words (MinHash; Broder 1997). */
export type Signature = Uint32Array;

/** Texts of fewer words are alike by chance. */
const LEAST_WORDS = 60;
/** Runs of so many words. */
const RUN = 4;
/** Bands of rows: of two texts that share nine tenths of their runs 999 of 1,000 are found, of those that share half 1 of 8. */
const BANDS = 12;
const ROWS = 6;
/** So many of all rows are the same where texts are nearly the same. */
const NEAR_TEXT = 0.85;
/** One hash is made into many by odd factors and offsets, the same in every process. */
const MIXES = Array.from({ length: BANDS * ROWS }, (_, n) => [
  Math.imul(n + 1, 0x9e3779b1) | 1,
  Math.imul(n + 7, 0x85ebca6b),
]) as readonly (readonly [number, number])[];

/** `null` where a text is too short to be compared. */
export function signatureOf(text: string): Signature | null {
  const words = worded(text).plain.split(' ');
  if (words.length < LEAST_WORDS) return null;
  const least = new Uint32Array(MIXES.length).fill(0xffffffff);
  for (let at = 0; at + RUN <= words.length; at++) {
    let hash = 0x811c9dc5;
    for (let n = 0; n < RUN; n++) {
      const word = words[at + n] as string;
      for (let i = 0; i < word.length; i++) hash = Math.imul(hash ^ word.charCodeAt(i), 0x01000193);
      hash = Math.imul(hash ^ 32, 0x01000193);
    }
    hash ^= hash >>> 15;
    for (const [n, [factor, offset]] of MIXES.entries()) {
      let mixed = Math.imul(hash, factor) + offset;
      mixed = Math.imul(mixed ^ (mixed >>> 16), 0x45d9f3b) >>> 0;
      if (mixed < (least[n] as number)) least[n] = mixed;
    }
  }
  return least;
}

/** Whole texts of pages. */
export class TextIndex implements Index<Signature> {
  private readonly texts = new Map<PageId, { readonly text: Signature; readonly keys: readonly string[] }>();
  private readonly byBand = new Lists<string>();

  put(id: PageId, text: Signature | null): void {
    for (const key of this.texts.get(id)?.keys ?? []) this.byBand.remove(key, id);
    this.texts.delete(id);
    if (!text) return;
    const keys = Array.from({ length: BANDS }, (_, n) => `${n} ${text.subarray(n * ROWS, (n + 1) * ROWS).join()}`);
    this.texts.set(id, { text, keys });
    for (const key of keys) this.byBand.add(key, id);
  }

  of(id: PageId): Alike {
    const own = this.texts.get(id);
    if (!own) return NONE;
    const near = new Set<PageId>();
    const seen = new Set<PageId>([id]);
    for (const key of own.keys)
      for (const one of this.byBand.of(key)) {
        if (near.size >= MOST_NEAR) return { same: [], near: [...near] };
        const other = seen.has(one) ? undefined : this.texts.get(one)?.text;
        seen.add(one);
        if (other && shareOf(own.text, other) >= NEAR_TEXT) near.add(one);
      }
    return { same: [], near: [...near] };
  }
}

function shareOf(a: Signature, b: Signature): number {
  let same = 0;
  for (let n = 0; n < a.length; n++) if (a[n] === b[n]) same += 1;
  return same / a.length;
}

/** What a page says that others say too. */
export function same(
  { title, description, text }: { readonly title: Alike; readonly description: Alike; readonly text: Alike },
  nameOf: (id: PageId) => string,
): Finding[] {
  const those = (ids: readonly PageId[]) => ({
    pages: ids.slice(0, NAMED).map(nameOf),
    more: Math.max(0, ids.length - NAMED),
  });
  const of = (key: 'title' | 'description', { same: equal, near }: Alike): Finding[] => {
    const place = { metadata: key } as const;
    if (equal.length) return [found('same', 'worth-fixing', `${key}-same`, those(equal), place)];
    return near.length ? [found('same', 'worth-fixing', `${key}-near`, those(near), place)] : [];
  };
  return [
    ...of('title', title),
    ...of('description', description),
    ...(text.near.length ? [found('same', 'worth-fixing', 'text-near', those(text.near), null)] : []),
  ];
}
