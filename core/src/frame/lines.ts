import { endOf, type Instant, type Interval } from '../time/index.js';
import {
  LINE_SLOTS,
  type FrameLine,
  type FrameLines,
  type FrameParts,
  type LineSlot,
  type LineStretch,
} from './routes.js';

/** What is to stand at a place from an instant on. */
export interface WantedFrame {
  readonly place: string;
  /** From the horizon on, or from its first day where nothing stands there yet, until the place is no more. */
  readonly during: Interval;
  /** Without gaps. */
  readonly stretches: readonly { readonly during: Interval; readonly parts: FrameParts }[];
  /** The lines that stand there at its start, `null` where there are none. */
  readonly lines: FrameLines | null;
}

/** What becomes of lines: those that go on otherwise from the horizon on, those that begin, and which stand at each place. */
export interface LaidLines {
  readonly changed: ReadonlyMap<number, readonly LineStretch[]>;
  /** By a number below nothing, until they are stored. */
  readonly begun: ReadonlyMap<number, { readonly slot: LineSlot; readonly stretches: readonly LineStretch[] }>;
  readonly at: ReadonlyMap<string, FrameLines>;
}

/**
 * Lays what is to stand at places on lines, so that places where the same stands share them: of those on one line the most
 * keep it, and it goes on as they want it; the others go to a line on which the same stands, or begin one. A line of a
 * place that is not asked about (`isElsewhere`) stays as it is, and so does everything before the horizon.
 */
export function laidLines(
  wanted: readonly WantedFrame[],
  lineOf: (id: number) => FrameLine | undefined,
  isElsewhere: (line: number) => boolean,
  horizon: Instant,
): LaidLines {
  const changed = new Map<number, readonly LineStretch[]>();
  const begun = new Map<number, { slot: LineSlot; stretches: readonly LineStretch[] }>();
  const at = new Map<string, Record<LineSlot, number>>(
    wanted.map(({ place }) => [place, {} as Record<LineSlot, number>]),
  );
  const lay = (place: string, slot: LineSlot, line: number) => {
    const own = at.get(place);
    if (own) own[slot] = line;
  };
  for (const slot of LINE_SLOTS) {
    /** Lines as they go on, by what stands on them from the horizon on, with when that begins. */
    const known = new Map<string, { readonly line: number; readonly from: number }>();
    const homeless: Group[] = [];
    const byLine = new Map<number | null, Group[]>();
    for (const { place, during, stretches, lines } of wanted) {
      const own = sequenceOf(stretches, slot, during);
      const group = { place, key: keyOf(own), stretches: own, from: during.from };
      const line = lines ? lines[slot] : null;
      byLine.set(line, [...(byLine.get(line) ?? []), group]);
    }
    for (const [line, groups] of [...byLine].sort(([, a], [, b]) => b.length - a.length)) {
      const stored = line === null ? undefined : lineOf(line);
      if (line === null || !stored) {
        homeless.push(...groups);
        continue;
      }
      const held = keyOf(stretchesFrom(stored, horizon));
      const kept = isElsewhere(line) ? held : mostOf(groups, held);
      // What goes on like a line that more stand on joins that.
      if (kept !== held && known.has(kept)) {
        homeless.push(...groups);
        continue;
      }
      for (const group of groups)
        if (group.key === kept) lay(group.place, slot, line);
        else homeless.push(group);
      const own = kept === held ? stretchesFrom(stored, horizon) : firstOf(groups.filter(({ key }) => key === kept));
      if (kept !== held) changed.set(line, own);
      known.set(kept, { line, from: own[0]?.during.from ?? -Infinity });
    }
    const made = new Map<string, { line: number; from: Instant; stretches: readonly LineStretch[] }>();
    for (const { place, key, stretches, from } of homeless) {
      // Where something stood before the horizon too, it needs a line that says so.
      const joined = known.get(key);
      if (joined && from >= horizon && joined.from <= from) {
        lay(place, slot, joined.line);
        continue;
      }
      const one = made.get(key) ?? { line: -1 - begun.size - made.size, from, stretches };
      made.set(key, from < one.from ? { ...one, from, stretches } : one);
      lay(place, slot, one.line);
    }
    for (const { line, stretches } of made.values()) begun.set(line, { slot, stretches });
  }
  return { changed, begun, at };
}

interface Group {
  readonly place: string;
  readonly key: string;
  readonly stretches: readonly LineStretch[];
  readonly from: Instant;
}

/** What stands in one slot, one stretch for what is the same; open where only the place ends. */
function sequenceOf(
  stretches: WantedFrame['stretches'],
  slot: LineSlot,
  { until: end }: Interval,
): readonly LineStretch[] {
  const joined: LineStretch[] = [];
  for (const { during, parts } of stretches) {
    const own = parts[slot] ?? [];
    const until = during.until === end ? null : during.until;
    const last = joined.at(-1);
    if (last && last.parts.join() === own.join())
      joined[joined.length - 1] = { ...last, during: { from: last.during.from, until } };
    else joined.push({ during: { from: during.from, until }, parts: own });
  }
  return joined;
}

/** When the first begins says nothing: nobody asks for what was before. */
const keyOf = (stretches: readonly LineStretch[]): string =>
  JSON.stringify(stretches.map(({ during, parts }, n) => [n ? during.from : null, during.until, parts]));

const stretchesFrom = ({ stretches }: FrameLine, horizon: Instant): readonly LineStretch[] =>
  stretches.filter(({ during }) => endOf(during) > horizon);

/** What those of one key want, from when the first of them begins. */
const firstOf = (groups: readonly Group[]): readonly LineStretch[] =>
  groups.reduce<Group | undefined>((first, one) => (!first || one.from < first.from ? one : first), undefined)
    ?.stretches ?? [];

/** What most of them want; what is held already, where as many want that. */
function mostOf(groups: readonly Group[], held: string): string {
  const counts = new Map<string, number>();
  for (const { key } of groups) counts.set(key, (counts.get(key) ?? 0) + 1);
  const most = Math.max(...counts.values());
  if (counts.get(held) === most) return held;
  return [...counts].find(([, count]) => count === most)?.[0] ?? held;
}
