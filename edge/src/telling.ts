import { gauge, tellFigures, warn, type Settings } from '@domatium/storage';
import type { Edge } from './edge.js';

/** What an operator sees of an edge: docs/OPERATING.md says what each figure means. */
export async function tellEdgeFigures({ metricsPorts, metricsBind }: Settings, edge: Edge): Promise<void> {
  const { follower, artifacts, spool } = edge;
  gauge('domatium_edge_cache_bytes', 'Memory kept for pages and for files.', ['kind'], () => {
    const { pages, files } = artifacts.cached;
    return Promise.resolve([
      [{ kind: 'pages' }, pages],
      [{ kind: 'files' }, files],
    ] as const);
  });
  gauge('domatium_edge_spool_bytes', 'Counts that are not in the database yet.', [], async () => [
    [{}, await spool.bytes()],
  ]);
  gauge('domatium_edge_hosts', 'Hosts this edge answers for.', [], () =>
    Promise.resolve([[{}, follower.table.hosts.size]] as const),
  );
  gauge('domatium_edge_lacking_pages', 'Pages that are missing or damaged on this disk.', [], () =>
    Promise.resolve([[{}, artifacts.lacks.size]] as const),
  );
  if (!metricsPorts) return;
  const server = await tellFigures({ port: metricsPorts.edge, bind: metricsBind }, () =>
    Promise.resolve({
      ok: follower.isLoaded,
      missing: follower.isLoaded ? null : 'No routes yet: neither a snapshot nor the database was there.',
      degraded: follower.troubles(),
    }),
  ).catch((error: unknown) => warn('no figures', error));
  server?.unref();
}
