import type { FrameParts, FrameRoute } from '@domatium/core/frame';
import type { Instant } from '@domatium/core/time';
import type { Query } from './query.js';

/** An edge's own copy of the frames on a host. */
export interface StoredFrames {
  readonly hostId: number;
  readonly host: string;
  /** Rises with every change of them, apart from that of its routes. */
  readonly version: number;
  readonly routes: readonly FrameRoute[];
}

/** Frames of hosts, without those that ended before `since`. */
export async function readHostFrames(
  query: Query,
  hostIds: readonly number[],
  since: Instant,
): Promise<StoredFrames[]> {
  const hosts = await query<{ id: number; name: string; frame_version: number }>(
    'SELECT id, name, frame_version FROM host WHERE id = ANY($1)',
    [hostIds],
  );
  const rows = await query<{
    host_id: number;
    base_path: string;
    from_at: Instant;
    until_at: Instant | null;
    parts: FrameParts;
  }>(
    'SELECT host_id, base_path, from_at, until_at, parts FROM frame_route WHERE host_id = ANY($1) AND (until_at IS NULL OR until_at > $2)',
    [hostIds, new Date(since)],
  );
  const routes = new Map<number, FrameRoute[]>();
  for (const { host_id, base_path: basePath, from_at: from, until_at: until, parts } of rows) {
    const own = routes.get(host_id) ?? [];
    routes.set(host_id, own);
    own.push({ basePath, during: { from, until }, parts });
  }
  return hosts.map(({ id, name, frame_version: version }) => ({
    hostId: id,
    host: name,
    version,
    routes: routes.get(id) ?? [],
  }));
}

/** What parts hold, by their hashes. */
export async function readParts(query: Query, hashes: readonly string[]): Promise<Map<string, string>> {
  if (!hashes.length) return new Map();
  const rows = await query<{ hash: string; html: string }>('SELECT hash, html FROM part WHERE hash = ANY($1)', [
    hashes,
  ]);
  return new Map(rows.map(({ hash, html }) => [hash, html]));
}
