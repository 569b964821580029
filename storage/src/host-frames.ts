import type { FramedPage, FrameLine, FrameLines, FrameRoute, LineStretch } from '@domatium/core/frame';
import { groupBy } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import type { Query } from './query.js';

/** An edge's own copy of the frames on a host. */
export interface StoredFrames {
  readonly hostId: number;
  readonly host: string;
  /** Rises with every change of them, apart from that of its routes. */
  readonly version: number;
  readonly routes: readonly FrameRoute[];
  /** Pages around which something else stands than around their site. */
  readonly pages: readonly FramedPage[];
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
  interface Row {
    readonly host_id: number;
    readonly from_at: Instant;
    readonly until_at: Instant | null;
    readonly variant: string;
  }
  const bindings = [hostIds, new Date(since)];
  const rows = await query<Row & { base_path: string } & FrameLines>(
    'SELECT host_id, base_path, variant, from_at, until_at, icons, head, above, below, nav, codes, root FROM frame_place WHERE host_id = ANY($1) AND (until_at IS NULL OR until_at > $2)',
    bindings,
  );
  const framed = await query<Row & { page_id: number }>(
    'SELECT host_id, page_id, variant, from_at, until_at FROM framed_page WHERE host_id = ANY($1) AND (until_at IS NULL OR until_at > $2)',
    bindings,
  );
  const duringOf = ({ from_at: from, until_at: until }: Row) => ({ from, until });
  const routes = groupBy(rows, ({ host_id }) => host_id);
  const pages = groupBy(framed, ({ host_id }) => host_id);
  return hosts.map(({ id, name, frame_version: version }) => ({
    hostId: id,
    host: name,
    version,
    routes: (routes.get(id) ?? []).map((row) => ({
      basePath: row.base_path,
      variant: row.variant,
      during: duringOf(row),
      lines: linesOf(row),
    })),
    pages: (pages.get(id) ?? []).map((row) => ({
      pageId: row.page_id,
      variant: row.variant,
      during: duringOf(row),
    })),
  }));
}

/** The lines of a place, apart from what else is known of it. One that a worker of the version before wrote has none for codes or files of the root: 0. */
export const linesOf = ({
  icons,
  head,
  above,
  below,
  nav,
  codes,
  root,
}: Omit<FrameLines, 'codes' | 'root'> & {
  readonly codes: number | null;
  readonly root: number | null;
}): FrameLines => ({
  ...{ icons, head, above, below, nav },
  codes: codes ?? 0,
  root: root ?? 0,
});

/** Lines, without what ended on them before `since`. */
export async function readFrameLines(query: Query, ids: readonly number[], since: Instant): Promise<FrameLine[]> {
  const asked = ids.filter(Boolean);
  if (!asked.length) return [];
  const rows = await query<{ line_id: number; from_at: Instant; until_at: Instant | null; parts: string[] }>(
    'SELECT line_id, from_at, until_at, parts FROM frame_stretch WHERE line_id = ANY($1) AND (until_at IS NULL OR until_at > $2) ORDER BY from_at',
    [asked, new Date(since)],
  );
  const stretches = groupBy(rows, ({ line_id }) => line_id);
  return asked.map((id) => ({
    id,
    stretches: (stretches.get(id) ?? []).map(({ from_at: from, until_at: until, parts }): LineStretch => ({
      during: { from, until },
      parts,
    })),
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
