import { gauge, swallowed, tellFigures, warn, type Settings } from '@domatium/storage';
import type { Knex } from 'knex';
import { rowsOf } from '../database/context.js';
import type { Health } from '../http/health.js';
import type { WorkEngine } from '../work/index.js';

/** What an operator sees of server and worker: docs/OPERATING.md says what each figure means. */

interface Pool {
  numUsed(): number;
  numFree(): number;
  numPendingAcquires(): number;
}

function poolFigures(database: Knex): void {
  gauge(
    'domatium_database_pool',
    'Connections to the database: used, free, and wants that wait for one.',
    ['state'],
    () => {
      const { pool } = database.client as { pool: Pool };
      return Promise.resolve([
        [{ state: 'used' }, pool.numUsed()],
        [{ state: 'free' }, pool.numFree()],
        [{ state: 'waiting' }, pool.numPendingAcquires()],
      ] as const);
    },
  );
}

export async function tellServerFigures(settings: Settings, database: Knex, health: Health): Promise<void> {
  poolFigures(database);
  gauge('domatium_streams', 'Browsers that hear what happens.', [], () => Promise.resolve([[{}, health.streams]]));
  await tell(settings, 'server', async () => {
    const { ok, missing, degraded } = await health.condition();
    return { ok, missing, degraded };
  });
}

export async function tellWorkerFigures(settings: Settings, database: Knex, engine: WorkEngine): Promise<void> {
  poolFigures(database);
  const seconds = (name: string, help: string, sql: string) =>
    gauge(name, help, [], async () => {
      const [row] = await rowsOf<{ value: number | null }>(database, sql);
      return [[{}, Number(row?.value ?? 0)]];
    });
  gauge('domatium_jobs_waiting', 'Work that waits, by kind.', ['kind'], async () =>
    (
      await rowsOf<{ name: string; n: number }>(
        database,
        "SELECT name, count(*)::int AS n FROM pgboss.job WHERE state < 'active' GROUP BY name",
      )
    ).map(({ name, n }) => [{ kind: name }, n] as const),
  );
  seconds(
    'domatium_oldest_job_seconds',
    'Age of the work that waits longest.',
    "SELECT extract(epoch FROM now() - min(created_on)) AS value FROM pgboss.job WHERE state < 'active'",
  );
  seconds(
    'domatium_oldest_release_not_out_seconds',
    'Age of the oldest release that visitors do not see yet.',
    'SELECT extract(epoch FROM now() - min(at)) AS value FROM release WHERE out_at IS NULL AND failure IS NULL',
  );
  gauge('domatium_edge_followed_seconds', 'Seconds since each edge was last heard of.', ['edge'], async () =>
    (
      await rowsOf<{ id: string; age: number }>(
        database,
        'SELECT id, extract(epoch FROM now() - seen_at)::float8 AS age FROM edge',
      )
    ).map(({ id, age }) => [{ edge: id }, age] as const),
  );
  gauge('domatium_troubles', 'What goes wrong just now, by kind.', ['kind'], async () =>
    (
      await rowsOf<{ kind: string; n: number }>(database, 'SELECT kind, count(*)::int AS n FROM trouble GROUP BY kind')
    ).map(({ kind, n }) => [{ kind }, n] as const),
  );
  await tell(settings, 'worker', async () => {
    const rows = await rowsOf<{ words: string }>(
      database,
      "SELECT words FROM trouble WHERE place = 'worker' ORDER BY since",
    ).catch(swallowed('health', null));
    return {
      ok: rows !== null,
      missing: rows ? null : 'The database can’t be reached.',
      degraded: [
        ...(rows ?? []).map(({ words }) => words),
        ...(engine.isListening || !rows ? [] : ['Work is not heard of just now; it is looked for now and then.']),
      ],
    };
  });
}

/** A port that is taken keeps nobody from working: it is said, and there are no figures. */
async function tell(
  { metricsPorts, metricsBind }: Settings,
  name: 'server' | 'worker',
  health: Parameters<typeof tellFigures>[1],
): Promise<void> {
  if (!metricsPorts) return;
  const server = await tellFigures({ port: metricsPorts[name], bind: metricsBind }, health).catch((error: unknown) =>
    warn('no figures', error),
  );
  server?.unref();
}
