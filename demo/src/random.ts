/** A source of numbers in [0, 1) from a seed (mulberry32): the same seed gives the same demo. */
export type Random = () => number;

export function randomFrom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A seed from a name, so that one page's numbers do not depend on which pages come before it. */
export function seedOf(name: string): number {
  let hash = 2_166_136_261;
  for (const char of name) hash = Math.imul(hash ^ (char.codePointAt(0) ?? 0), 16_777_619);
  return hash >>> 0;
}

export function pick<T>(random: Random, items: readonly [T, ...T[]] | readonly T[]): T {
  return items[Math.floor(random() * items.length)] as T;
}
