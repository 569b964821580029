import { canonical } from '../plan/index.js';
import type { Block, Metadata, PageDocument } from '../fields/types.js';

/** One block (or the page’s own fields) that two people changed differently, or one changed and the other removed. */
export interface MergeConflict {
  /** `page` for the page’s own fields. */
  readonly blockId: string;
  /** `null` where that one removed it. */
  readonly mine: Block | null;
  readonly theirs: Block | null;
}

export interface Merged {
  /** Both texts in one; where they are at odds, mine. */
  readonly document: PageDocument;
  readonly conflicts: readonly MergeConflict[];
}

/**
 * Two texts that were made from the same one, in one: changes of different blocks are all kept, whoever made them, and the
 * order of the two does not matter. Blocks that both changed are conflicts.
 */
export function mergeDocuments(base: PageDocument, mine: PageDocument, theirs: PageDocument): Merged {
  const [inBase, inMine, inTheirs] = [base, mine, theirs].map(byId) as [Blocks, Blocks, Blocks];
  const conflicts: MergeConflict[] = [];
  const kept = new Map<string, Block>();
  for (const id of new Set([...inBase.keys(), ...inMine.keys(), ...inTheirs.keys()])) {
    const [was, a, b] = [inBase.get(id) ?? null, inMine.get(id) ?? null, inTheirs.get(id) ?? null];
    const isConflict = !isSame(a, b) && !isSame(a, was) && !isSame(b, was);
    if (isConflict) conflicts.push({ blockId: id, mine: a, theirs: b });
    const block = isConflict ? (a ?? b) : isSame(a, was) ? b : a;
    if (block) kept.set(id, block);
  }
  const order = mergeOrder([...inBase.keys()], [...inMine.keys()], [...inTheirs.keys()], kept);
  const metadata = mergeMetadata(base.metadata, mine.metadata, theirs.metadata);
  if (metadata.isConflict) conflicts.unshift({ blockId: 'page', mine: null, theirs: null });
  return {
    document: { metadata: metadata.value, blocks: order.flatMap((id) => kept.get(id) ?? []) },
    conflicts,
  };
}

/** The merged text with one conflict decided for the other’s. */
export function takeTheirs(merged: PageDocument, theirs: PageDocument, conflict: MergeConflict): PageDocument {
  if (conflict.blockId === 'page') return { ...merged, metadata: theirs.metadata };
  if (!conflict.theirs) return { ...merged, blocks: merged.blocks.filter(({ id }) => id !== conflict.blockId) };
  const taken = conflict.theirs;
  return { ...merged, blocks: merged.blocks.map((block) => (block.id === conflict.blockId ? taken : block)) };
}

type Blocks = ReadonlyMap<string, Block>;
const byId = ({ blocks }: PageDocument): Blocks => new Map(blocks.map((block) => [block.id, block]));
const isSame = (a: Block | null, b: Block | null) =>
  a === b || (a !== null && b !== null && canonical(a) === canonical(b));

/**
 * Blocks that stayed in their order with both keep it; those that one added or moved stand behind the block they stood
 * behind there. Where both put something at one place, the identities decide, so that it is the same for both.
 */
function mergeOrder(
  base: readonly string[],
  mine: readonly string[],
  theirs: readonly string[],
  kept: Blocks,
): string[] {
  const stayed = new Set(intersection(stayedIn(base, mine), stayedIn(base, theirs)));
  const runs = new Map<string | null, string[][]>();
  for (const side of [mine, theirs]) {
    const own = new Set(stayedIn(base, side));
    let anchor: string | null = null;
    let run: string[] = [];
    const close = () => {
      if (run.length) runs.set(anchor, [...(runs.get(anchor) ?? []), run]);
      run = [];
    };
    for (const id of side) {
      if (stayed.has(id)) {
        close();
        anchor = id;
      } else if (!own.has(id)) run.push(id);
    }
    close();
  }
  const placed = new Set<string>();
  const order: string[] = [];
  const put = (id: string) => {
    if (!placed.has(id) && kept.has(id)) order.push(id);
    placed.add(id);
  };
  const putRuns = (anchor: string | null) =>
    (runs.get(anchor) ?? []).sort(compareRuns).forEach((run) => run.forEach(put));
  putRuns(null);
  for (const id of base.filter((one) => stayed.has(one))) {
    put(id);
    putRuns(id);
  }
  // What one side removed and the other changed stands where it stood.
  for (const [index, id] of base.entries())
    if (kept.has(id) && !placed.has(id)) {
      const before = base.slice(0, index).findLast((one) => placed.has(one));
      order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, id);
      placed.add(id);
    }
  return order;
}

/** By all identities of a run, since both may begin with the same block: only equal runs are equal. */
const compareRuns = (a: readonly string[], b: readonly string[]): number => {
  const [one, other] = [a.join(' '), b.join(' ')];
  return one < other ? -1 : Number(one > other);
};

/** The blocks that kept their order from one list to another: a longest increasing run of their places. */
function stayedIn(base: readonly string[], side: readonly string[]): string[] {
  const at = new Map(base.map((id, index) => [id, index]));
  const known = side.filter((id) => at.has(id));
  const places = known.map((id) => at.get(id) as number);
  const tails: number[] = [];
  const before: number[] = [];
  places.forEach((place, index) => {
    let low = 0;
    for (let high = tails.length; low < high;) {
      const middle = (low + high) >> 1;
      if ((places[tails[middle] as number] as number) < place) low = middle + 1;
      else high = middle;
    }
    before[index] = low ? (tails[low - 1] as number) : -1;
    tails[low] = index;
  });
  const found: string[] = [];
  for (let index = tails.at(-1) ?? -1; index >= 0; index = before[index] as number)
    found.unshift(known[index] as string);
  return found;
}

const intersection = (a: readonly string[], b: readonly string[]) => {
  const other = new Set(b);
  return a.filter((id) => other.has(id));
};

function mergeMetadata(base: Metadata, mine: Metadata, theirs: Metadata): { value: Metadata; isConflict: boolean } {
  let isConflict = false;
  const keys = [...new Set([...Object.keys(base), ...Object.keys(mine), ...Object.keys(theirs)])] as (keyof Metadata)[];
  const entries = keys.flatMap((key) => {
    const [was, a, b] = [base[key], mine[key], theirs[key]];
    if (a !== b && a !== was && b !== was) isConflict = true;
    const value = a === was ? b : a;
    return value === undefined ? [] : [[key, value] as const];
  });
  return { value: Object.fromEntries(entries) as unknown as Metadata, isConflict };
}
