import { queryOfKnex } from '@domatium/storage';
import type { Knex } from 'knex';
import PgBoss from 'pg-boss';

export const PUBLISH = 'publish';
export const JOBS_CHANNEL = 'domatium_jobs';

export interface PublishJob {
  readonly portfolioId: number;
  readonly releaseId: number;
}

/** Tried so often before a release counts as failed. */
export const RETRIES = 3;

let sender: PgBoss | null = null;

/** Opens the queue and makes sure of its tables. `supervise` looks after old jobs; one process does. */
export async function openQueue(url: string, supervise: boolean): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: url,
    supervise,
    schedule: false,
    max: 2,
    application_name: 'domatium queue',
  });
  boss.on('error', () => undefined);
  await boss.start();
  await boss.createQueue(PUBLISH, { name: PUBLISH, retryLimit: RETRIES, retryDelay: 1, expireInSeconds: 300 });
  sender = boss;
  return boss;
}

/** Writes the job of a release in the release's own transaction, and wakes the workers when it commits. */
export async function enqueuePublish(trx: Knex.Transaction, job: PublishJob): Promise<void> {
  if (!sender) throw new Error('The queue is not open');
  const query = queryOfKnex(trx);
  await sender.send(PUBLISH, job, {
    db: { executeSql: async (sql: string, values: unknown[]) => ({ rows: await query(sql, values) }) },
  });
  await trx.raw("SELECT pg_notify(?, '')", [JOBS_CHANNEL]);
}
