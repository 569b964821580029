import { randomUUID } from 'node:crypto';
import type { PortfolioId, ReleaseId } from '@domatium/core/plan';
import { groupBy } from '@domatium/core/plan';
import pg from 'pg';
import type PgBoss from 'pg-boss';
import type { Context } from '../database/context.js';
import { notifyEvent } from '../events/index.js';
import { undo } from '../releases/service.js';
import { undoFailedStock } from '../stock/service.js';
import { JOBS_CHANNEL, PUBLISH, RETRIES, type PublishJob } from './queue.js';
import type { Publisher } from './publication.js';
import { publishReleases } from './service.js';
import { noteFailure, openReleases, portfoliosWithOpenReleases } from './store.js';

/** Looked at even when nobody called: a lost notice, or jobs that are to be tried again. */
const SWEEP = 2_000;
const BATCH = 50;

/** Fetches and publishes until nothing is left; woken by a notice, and now and then by itself. */
export class PublishWorker {
  private client: pg.Client | null = null;
  private isStopped = false;
  private running: Promise<void> | null = null;
  private again = false;
  private readonly sweep = setInterval(() => void this.wake(), SWEEP);

  constructor(
    private readonly publisher: Publisher,
    private readonly boss: PgBoss,
    private readonly url: string,
  ) {}

  /** Whether it hears notices and could reach the database last time. */
  get isHealthy(): boolean {
    return this.client !== null;
  }

  async start(): Promise<void> {
    await this.listen();
    await this.takeOver();
    await this.publishLeftOver().catch((error: unknown) => console.error('publishing what was left', error));
    await this.wake();
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearInterval(this.sweep);
    await this.running?.catch(() => undefined);
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    if (this.isStopped) return;
    const client = new pg.Client({ connectionString: this.url, application_name: 'domatium worker' });
    client.on('error', () => undefined);
    client.on('notification', () => void this.wake());
    client.on('end', () => {
      if (this.client === client) this.client = null;
      if (!this.isStopped) setTimeout(() => void this.listen(), 1000).unref();
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${JOBS_CHANNEL}`);
      // Held as long as this worker lives: whoever can take it alone knows that no worker is at work.
      await client.query('SELECT pg_advisory_lock_shared(4602, 0)');
      this.client = client;
    } catch {
      if (!this.isStopped) setTimeout(() => void this.listen(), 1000).unref();
    }
  }

  /** Jobs that a killed worker held are tried again at once, and not only when they expire, where no other worker lives. */
  private async takeOver(): Promise<void> {
    const { database } = this.publisher;
    const others = (await database.raw(
      "SELECT count(*)::int AS n FROM pg_locks WHERE locktype = 'advisory' AND classid = 4602 AND granted",
    )) as { rows: { n: number }[] };
    if ((others.rows[0]?.n ?? 0) > 1) return;
    const held = (await database.raw("SELECT id FROM pgboss.job WHERE name = ? AND state = 'active'", [PUBLISH])) as {
      rows: { id: string }[];
    };
    for (const { id } of held.rows) await this.boss.fail(PUBLISH, id, { reason: 'The worker was killed' });
  }

  /** What was decided without a job, as an upgrade does, goes out when a worker starts. */
  private async publishLeftOver(): Promise<void> {
    const { database } = this.publisher;
    for (const { portfolio_id: portfolioId } of await portfoliosWithOpenReleases(database)) {
      const open = await openReleases(database, portfolioId);
      await publishReleases(
        this.publisher,
        portfolioId,
        open.map(({ id }) => id),
      );
    }
  }

  /** Runs until the queue is empty; a call while it runs makes it look once more. */
  wake(): Promise<void> {
    this.again = true;
    this.running ??= this.drain()
      .catch((error: unknown) => console.error('publishing', error))
      .finally(() => (this.running = null));
    return this.running;
  }

  private async drain(): Promise<void> {
    while (this.again && !this.isStopped) {
      this.again = false;
      const jobs = await this.boss.fetch<PublishJob>(PUBLISH, { batchSize: BATCH, includeMetadata: true });
      if (!jobs.length) continue;
      this.again = true;
      for (const [portfolioId, group] of groupBy(jobs, ({ data }) => data.portfolioId))
        await this.publish(portfolioId as PortfolioId, group);
    }
  }

  private async publish(portfolioId: PortfolioId, jobs: PgBoss.JobWithMetadata<PublishJob>[]): Promise<void> {
    const ids = jobs.map(({ id }) => id);
    const releaseIds = jobs.map(({ data }) => data.releaseId as ReleaseId);
    try {
      await publishReleases(this.publisher, portfolioId, releaseIds);
      await this.boss.complete(PUBLISH, ids);
    } catch (error) {
      console.error(`publishing ${releaseIds.join(', ')}`, error);
      // What failed together is tried one by one, so that one bad release does not hold up the others.
      for (const job of jobs) await this.publishAlone(portfolioId, job);
    }
  }

  private async publishAlone(portfolioId: PortfolioId, job: PgBoss.JobWithMetadata<PublishJob>): Promise<void> {
    const { releaseId } = job.data;
    try {
      await publishReleases(this.publisher, portfolioId, [releaseId as ReleaseId], true);
      await this.boss.complete(PUBLISH, [job.id]);
    } catch (error) {
      console.error(`publishing ${releaseId} alone`, error);
      await this.giveBack(portfolioId, job, error);
    }
  }

  private async giveBack(
    portfolioId: PortfolioId,
    job: PgBoss.JobWithMetadata<PublishJob>,
    error: unknown,
  ): Promise<void> {
    await this.boss.fail(PUBLISH, job.id, { reason: String(error) });
    if (job.retryCount < RETRIES) return;
    const { database, style, clock } = this.publisher;
    const context: Context = { database, style, account: null, now: clock(), clock };
    const releaseId = job.data.releaseId as ReleaseId;
    await noteFailure(database, [releaseId], error instanceof Error ? error.message : String(error));
    // Design section 5.4: what finally failed is undone from that moment, and says so.
    const key = `failed-${randomUUID()}`;
    const putBack = async () => {
      if (!(await undoFailedStock(context, portfolioId, releaseId, key)))
        await undo(context, portfolioId, releaseId, key, false);
    };
    await putBack().catch((refusal: unknown) => console.error(`undoing ${releaseId}`, refusal));
    await notifyEvent(database, { portfolioId, kind: 'failed', releaseId });
  }
}
