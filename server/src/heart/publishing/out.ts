import type { Knex } from 'knex';
import { rowsOf } from '../../platform/database/context.js';
import type { Work } from '../../platform/work/index.js';

/**
 * Releases that every living edge serves, with all their pages. Who lives is judged by the database's clock: an edge
 * that was not heard of for a minute is gone.
 */
const SERVED = `release r WHERE out_at IS NULL AND published_at IS NOT NULL AND NOT EXISTS (
    SELECT FROM release_host rh CROSS JOIN living e LEFT JOIN edge_host eh ON eh.edge_id = e.id AND eh.host_id = rh.host_id
    WHERE rh.release_id = r.id AND (coalesce(eh.version, 0) < rh.version OR coalesce(eh.frame_version, 0) < rh.frame_version))
  AND NOT EXISTS (
    SELECT FROM edge_lack l JOIN living e ON e.id = l.edge_id JOIN route t ON t.artifact = l.artifact
    JOIN release_page rp ON rp.page_id = t.page_id AND rp.release_id = r.id
    WHERE t.until_at IS NULL OR t.until_at > now())`;
const LIVING = `living AS (
    SELECT id FROM edge WHERE seen_at > now() - interval '60 seconds' AND seen_at <= now() + interval '2 seconds')`;

/** Says of every release that is out that it is, and tells those who look. */
export async function markOut(database: Knex): Promise<void> {
  await database.raw(
    `WITH ${LIVING}, served AS (SELECT r.id FROM ${SERVED}), done AS (
       UPDATE release SET out_at = now() WHERE out_at IS NULL AND id IN (SELECT id FROM served) RETURNING id, portfolio_id)
     SELECT pg_notify('domatium_events', json_build_object('portfolioId', portfolio_id, 'kind', 'out', 'releaseId', id)::text) FROM done`,
  );
}

/** Edges say what they serve; the worker says what that makes of releases. */
export function outWork(database: Knex): Work {
  return {
    name: 'out',
    every: 3_000,
    pauses: [500, 10_000],
    pending: async () =>
      (await rowsOf(database, `WITH ${LIVING} SELECT FROM ${SERVED} LIMIT 1`)).length ? ['all'] : [],
    run: () => markOut(database),
  };
}
