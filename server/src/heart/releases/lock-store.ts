import type { HostId, PageId, PortfolioId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { rowsOf, type Db } from '../../platform/database/context.js';

/** Locks pages in the order of their identities. */
export async function lockPages(trx: Db, portfolioId: PortfolioId, pageIds: readonly PageId[]): Promise<void> {
  await rowsOf(trx, 'SELECT id FROM page WHERE portfolio_id = ? AND id = ANY(?) ORDER BY id FOR NO KEY UPDATE', [
    portfolioId,
    pageIds,
  ]);
}

/**
 * Locks hosts in the order of their identities: `own` ones for a change, the others against a change by somebody else.
 * Gives the latest release on any of them.
 */
export async function lockHosts(
  trx: Db,
  portfolioId: PortfolioId,
  own: ReadonlySet<HostId>,
  all: readonly HostId[],
): Promise<Instant | null> {
  let latest: Instant | null = null;
  for (const run of runsOf(
    own,
    [...all].sort((a, b) => a - b),
  )) {
    const rows = await rowsOf<{ last_release_at: Instant | null }>(
      trx,
      `SELECT last_release_at FROM host WHERE portfolio_id = ? AND id = ANY(?) ORDER BY id FOR ${run.isOwn ? 'NO KEY UPDATE' : 'SHARE'}`,
      [portfolioId, run.ids],
    );
    for (const { last_release_at: at } of rows) if (at !== null && (latest === null || at > latest)) latest = at;
  }
  return latest;
}

/** Neighbours that are locked alike are locked together. */
function runsOf(own: ReadonlySet<HostId>, sorted: readonly HostId[]): { isOwn: boolean; ids: HostId[] }[] {
  const runs: { isOwn: boolean; ids: HostId[] }[] = [];
  for (const id of sorted) {
    const last = runs.at(-1);
    if (last && last.isOwn === own.has(id)) last.ids.push(id);
    else runs.push({ isOwn: own.has(id), ids: [id] });
  }
  return runs;
}

/** Held to the end of the transaction: whoever asks about a press waits until it is decided. */
export async function lockKey(trx: Db, portfolioId: PortfolioId, key: string): Promise<void> {
  await trx.raw("SELECT pg_advisory_xact_lock(hashtextextended(?::text || ' ' || ?, 4603))", [portfolioId, key]);
}
