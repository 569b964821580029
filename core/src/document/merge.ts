import { canonical } from '../plan/index.js';
import type { FieldValue, FieldValues } from '../fields/fields.js';
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
 * Two texts that were made from the same one, in one: changes of different blocks, and of different fields of one block, are
 * all kept, whoever made them, and the order of the two does not matter. What both changed in one field is a conflict.
 * Blocks in the tray are blocks like others: what one put there and the other changed is in the tray as it was changed.
 */
export function mergeDocuments(base: PageDocument, mine: PageDocument, theirs: PageDocument): Merged {
  const [inBase, inMine, inTheirs] = [base, mine, theirs].map(byId) as [Blocks, Blocks, Blocks];
  const conflicts: MergeConflict[] = [];
  const kept = new Map<string, Block>();
  const laid = new Map<string, Block>();
  for (const id of new Set([...inBase.keys(), ...inMine.keys(), ...inTheirs.keys()])) {
    const [was, a, b] = [inBase.get(id) ?? null, inMine.get(id) ?? null, inTheirs.get(id) ?? null];
    const merged = mergeBlocks(was?.block ?? null, a?.block ?? null, b?.block ?? null);
    // Put aside by one and removed by the other: it stays aside.
    const aside = !a !== !b && (a ?? b)?.isAside && was && !was.isAside ? (a ?? b) : null;
    if (merged.isConflict && !aside) conflicts.push({ blockId: id, mine: merged.mine, theirs: merged.theirs });
    const block = aside?.block ?? (merged.isConflict ? (merged.mine ?? merged.theirs) : merged.mine);
    if (!block) continue;
    const isAside = a && b ? (a.isAside === was?.isAside ? b.isAside : a.isAside) : (a ?? b)?.isAside;
    (isAside ? laid : kept).set(id, block);
  }
  const idsOf = ({ blocks }: PageDocument) => blocks.map(({ id }) => id);
  const order = mergeOrder(idsOf(base), idsOf(mine), idsOf(theirs), kept);
  const metadata = mergeMetadata(base.metadata, mine.metadata, theirs.metadata);
  if (metadata.isConflict) conflicts.unshift({ blockId: 'page', mine: null, theirs: null });
  const tray = trayOrder(base, mine, theirs).flatMap((id) => laid.get(id) ?? []);
  return {
    document: {
      metadata: metadata.value,
      blocks: order.flatMap((id) => kept.get(id) ?? []),
      ...(tray.length ? { tray } : {}),
    },
    conflicts,
  };
}

/** What was in the tray first, then what each put there, the same for both. */
function trayOrder(base: PageDocument, mine: PageDocument, theirs: PageDocument): string[] {
  const [was, a, b] = [base, mine, theirs].map(({ tray = [] }) => tray.map(({ id }) => id)) as [
    string[],
    string[],
    string[],
  ];
  if (canonical(was) === canonical(b)) return [...new Set([...a, ...b])];
  if (canonical(was) === canonical(a)) return [...new Set([...b, ...a])];
  return [...new Set([...was, ...[...a, ...b].sort()])];
}

interface MergedBlock {
  /** As it is with my fields where both changed one, and with theirs. */
  readonly mine: Block | null;
  readonly theirs: Block | null;
  readonly isConflict: boolean;
}

function mergeBlocks(was: Block | null, a: Block | null, b: Block | null): MergedBlock {
  const whole = (block: Block | null) => ({ mine: block, theirs: block, isConflict: false });
  if (isSame(a, b) || isSame(b, was)) return whole(a);
  if (isSame(a, was)) return whole(b);
  if (!was || !a || !b || a.type !== b.type || a.type !== was.type) return { mine: a, theirs: b, isConflict: true };
  const fields = mergeFields(was.fields, a.fields, b.fields);
  const of = (block: Block, values: FieldValues): Block => ({ ...block, fields: values });
  return { mine: of(a, fields.mine), theirs: of(b, fields.theirs), isConflict: fields.isConflict };
}

interface MergedFields {
  readonly mine: FieldValues;
  readonly theirs: FieldValues;
  readonly isConflict: boolean;
}

/** Field by field; entries of a list one by one, as long as nobody put any in or took any out. */
function mergeFields(was: FieldValues, a: FieldValues, b: FieldValues): MergedFields {
  const mine: Record<string, FieldValue> = {};
  const theirs: Record<string, FieldValue> = {};
  let isConflict = false;
  for (const key of new Set([...Object.keys(was), ...Object.keys(a), ...Object.keys(b)])) {
    const [before, one, other] = [was[key] ?? null, a[key] ?? null, b[key] ?? null];
    const same = (x: FieldValue, y: FieldValue) => x === y || canonical(x) === canonical(y);
    const entries = [before, one, other].map(entriesOf);
    const [ofWas, ofMine, ofTheirs] = entries;
    // What one side does not have at all is not there afterwards: of how a block stands only what is unusual is kept.
    if (same(one, other) || same(other, before)) keep([mine, theirs], key, a);
    else if (same(one, before)) keep([mine, theirs], key, b);
    else if (ofWas && ofMine && ofTheirs && new Set(entries.map((list) => list?.length)).size === 1) {
      const merged = ofWas.map((entry, n) => mergeFields(entry, ofMine[n] ?? {}, ofTheirs[n] ?? {}));
      mine[key] = merged.map((entry) => entry.mine);
      theirs[key] = merged.map((entry) => entry.theirs);
      isConflict ||= merged.some((entry) => entry.isConflict);
    } else {
      keep([mine], key, a);
      keep([theirs], key, b);
      isConflict = true;
    }
  }
  return { mine: mine as FieldValues, theirs: theirs as FieldValues, isConflict };
}

function keep(into: readonly Record<string, FieldValue>[], key: string, from: FieldValues): void {
  const value = from[key];
  if (value !== undefined) for (const fields of into) fields[key] = value;
}

const entriesOf = (value: FieldValue): readonly FieldValues[] | null =>
  Array.isArray(value) ? (value as readonly FieldValues[]) : null;

/** The merged text with one conflict decided for the other’s. */
export function takeTheirs(merged: PageDocument, theirs: PageDocument, conflict: MergeConflict): PageDocument {
  if (conflict.blockId === 'page') return { ...merged, metadata: theirs.metadata };
  const { blockId, theirs: taken } = conflict;
  const instead = (blocks: readonly Block[]) =>
    blocks.flatMap((block) => (block.id !== blockId ? [block] : taken ? [taken] : []));
  const { tray } = merged;
  return { ...merged, blocks: instead(merged.blocks), ...(tray ? { tray: instead(tray) } : {}) };
}

/** A block where it is: on the page, or aside in the tray. */
interface Placed {
  readonly block: Block;
  readonly isAside: boolean;
}
type Blocks = ReadonlyMap<string, Placed>;
const byId = ({ blocks, tray = [] }: PageDocument): Blocks =>
  new Map(
    [...tray.map((block) => ({ block, isAside: true })), ...blocks.map((block) => ({ block, isAside: false }))].map(
      (placed) => [placed.block.id, placed],
    ),
  );
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
  kept: ReadonlyMap<string, Block>,
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
    const same = (x: unknown, y: unknown) => x === y || canonical(x) === canonical(y);
    if (!same(a, b) && !same(a, was) && !same(b, was)) isConflict = true;
    const value = same(a, was) ? b : a;
    return value === undefined ? [] : [[key, value] as const];
  });
  return { value: Object.fromEntries(entries) as unknown as Metadata, isConflict };
}
