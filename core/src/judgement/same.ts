import { found, type Finding } from '../checks/finding.js';
import { likenessOf, NEAR, worded, type Worded } from '../metadata/index.js';
import type { PageId } from '../plan/index.js';

/** Up to so many others are counted; of more it is said that they are more. */
export const MOST = 20;
/** Of a page that has many alike so many more are looked for, so that it need not be judged anew each time one goes. */
const SPARE = 60;
const ENOUGH = MOST + 1 + SPARE;
/** So many pages are named. */
export const NAMED = 3;

/** Pages that say the same as one, or nearly; none of them by name where they are more than `MOST`. */
export interface Alike {
  readonly how: 'same' | 'near';
  readonly ids: readonly PageId[];
  readonly isMany: boolean;
}

/** Those that were found, in an order of their own. */
function alike(how: Alike['how'], ids: readonly PageId[]): Alike | null {
  if (!ids.length) return null;
  return ids.length > MOST
    ? { how, ids: [], isMany: true }
    : { how, ids: [...ids].sort((a, b) => a - b), isMany: false };
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

/** Texts by what they say, each found again from any other that is nearly the same. */
abstract class NearIndex<Text> {
  /** Pages that have many alike, by how many may go until that is to be looked at again. */
  private readonly spare = new Map<PageId, number>();

  protected abstract nearOf(id: PageId): Iterable<PageId>;

  /** Those that are near, until enough are found. */
  protected look(id: PageId): PageId[] {
    const ids: PageId[] = [];
    this.spare.delete(id);
    for (const one of this.nearOf(id)) {
      ids.push(one);
      if (ids.length === ENOUGH) {
        this.spare.set(id, SPARE);
        break;
      }
    }
    return ids;
  }

  /** Pages that have to be looked at again because one goes from among them, or has come. */
  protected *nearTouchedBy(id: PageId, isGoing: boolean): Iterable<PageId> {
    for (const one of this.nearOf(id)) {
      const spare = this.spare.get(one);
      if (spare === undefined) yield one;
      else if (isGoing && spare > 1) this.spare.set(one, spare - 1);
      else if (isGoing) {
        this.spare.delete(one);
        yield one;
      }
    }
  }

  abstract put(id: PageId, text: Text | null): void;
  abstract of(id: PageId): Alike | null;
  abstract touchedBy(id: PageId, isGoing: boolean): Iterable<PageId>;
}

/**
 * Titles or descriptions. Two that share three quarters of their words share one of the first few of each, whatever order
 * all words have: only those are compared (prefix filtering; Chaudhuri, Ganti, Kaushik, ICDE 2006). Words are in the order
 * of how rare they were when the first many came, so that the first few are rare.
 */
export class WordIndex extends NearIndex<Worded> {
  private readonly texts = new Map<PageId, { readonly text: Worded; readonly first: readonly string[] }>();
  private readonly byPlain = new Lists<string>();
  private readonly byWord = new Lists<string>();
  private readonly ranks = new Map<string, number>();

  constructor(first: Iterable<Worded> = []) {
    super();
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

  protected *nearOf(id: PageId): Iterable<PageId> {
    const own = this.texts.get(id);
    const seen = new Set<PageId>([id]);
    for (const word of own?.first ?? [])
      for (const one of this.byWord.of(word)) {
        const other = seen.has(one) ? undefined : this.texts.get(one);
        seen.add(one);
        if (own && other && likenessOf(own.text, other.text) === 'near') yield one;
      }
  }

  private sameAs(id: PageId): ReadonlySet<PageId> {
    const own = this.texts.get(id);
    return own ? this.byPlain.of(own.text.plain) : new Set();
  }

  /** What is nearly the same says little where something is the same. */
  of(id: PageId): Alike | null {
    const same = this.sameAs(id);
    if (same.size > MOST + 1) return { how: 'same', ids: [], isMany: true };
    return (
      alike(
        'same',
        [...same].filter((one) => one !== id),
      ) ?? alike('near', this.look(id))
    );
  }

  *touchedBy(id: PageId, isGoing: boolean): Iterable<PageId> {
    const same = this.sameAs(id);
    // Of more it stays true that they are more.
    if (same.size <= MOST + 2) yield* same;
    yield* this.nearTouchedBy(id, isGoing);
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
export class TextIndex extends NearIndex<Signature> {
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

  protected *nearOf(id: PageId): Iterable<PageId> {
    const own = this.texts.get(id);
    const seen = new Set<PageId>([id]);
    for (const key of own?.keys ?? [])
      for (const one of this.byBand.of(key)) {
        const other = seen.has(one) ? undefined : this.texts.get(one);
        seen.add(one);
        if (own && other && shareOf(own.text, other.text) >= NEAR_TEXT) yield one;
      }
  }

  of(id: PageId): Alike | null {
    return alike('near', this.look(id));
  }

  touchedBy(id: PageId, isGoing: boolean): Iterable<PageId> {
    return this.nearTouchedBy(id, isGoing);
  }
}

function shareOf(a: Signature, b: Signature): number {
  let same = 0;
  for (let n = 0; n < a.length; n++) if (a[n] === b[n]) same += 1;
  return same / a.length;
}

/** What a page says that others say too. */
export function same(
  those: { readonly title: Alike | null; readonly description: Alike | null; readonly text: Alike | null },
  nameOf: (id: PageId) => string,
): Finding[] {
  const others = ({ ids, isMany }: Alike) =>
    isMany
      ? { pages: [], more: null }
      : { pages: ids.slice(0, NAMED).map(nameOf), more: Math.max(0, ids.length - NAMED) };
  const { text } = those;
  return [
    ...(['title', 'description'] as const).flatMap((key) => {
      const one = those[key];
      return one ? [found('same', 'worth-fixing', `${key}-${one.how}` as const, others(one), { metadata: key })] : [];
    }),
    ...(text ? [found('same', 'worth-fixing', 'text-near', others(text), null)] : []),
  ];
}
