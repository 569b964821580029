import type { HostId, PageId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';

interface Row {
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}

/** What becomes of the rows of one place: which go, which end otherwise, which are new. */
export interface Cut<New extends Row> {
  readonly removed: readonly number[];
  readonly ends: readonly { readonly id: number; readonly during: { readonly until: Instant | null } }[];
  readonly inserted: readonly New[];
}

/**
 * Rows of one place as they are stored against those that are wanted, from `horizon` on: what was before stays as it
 * was, and what is the same stays the same row. A place that has none yet gets its whole history.
 */
export function cutAt<New extends Row, Stored extends New & { readonly id: number }>(
  stored: readonly Stored[],
  coming: readonly New[],
  horizon: Instant,
  contentOf: (row: New) => string,
): Cut<New> {
  const isNew = !stored.length;
  const wanted = coming
    .filter((row) => isNew || row.until_at === null || row.until_at > horizon)
    .map((row) => (isNew || row.from_at >= horizon ? row : { ...row, from_at: horizon }));
  const removed: number[] = [];
  const ends: { id: number; during: { until: Instant | null } }[] = [];
  const keep = new Set<New>();
  for (const row of stored.filter(({ until_at }) => until_at === null || until_at > horizon)) {
    const same = wanted.find(
      (other) =>
        !keep.has(other) && contentOf(other) === contentOf(row) && Math.max(row.from_at, horizon) === other.from_at,
    );
    if (same) keep.add(same);
    if (same && same.until_at === row.until_at) continue;
    if (same) ends.push({ id: row.id, during: { until: same.until_at } });
    else if (row.from_at < horizon) ends.push({ id: row.id, during: { until: horizon } });
    else removed.push(row.id);
  }
  return { removed, ends, inserted: wanted.filter((row) => !keep.has(row)) };
}

/** What a change of frames is about: rows of one of them are written together. */
export const subjects = {
  line: (id: number) => `line ${id}`,
  place: (place: string) => `place ${place}`,
  page: (hostId: HostId, pageId: PageId) => `page ${hostId} ${pageId}`,
};

/** Takes what was stored of something before it becomes another. */
export type KeepBefore = (subject: string, rows: readonly object[]) => void;
