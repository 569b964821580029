import { Listener, queryOfKnex, tellTroubles, logging, swallowed, warn } from '@domatium/storage';
import type { Knex } from 'knex';
import PgBoss from 'pg-boss';
import { rowsOf } from '../database/context.js';
import { WORK_CHANNEL, type Work } from './kind.js';
import { say } from '@domatium/core/words/answers/work';

/** Work that is held and not heard of for so long belongs to nobody any more, in seconds; whoever does it says so in time. */
const LEASE = 15;
const HEARTBEAT = (LEASE * 1000) / 3;
const UNIQUE_VIOLATION = '23505';

/** Opens the queue and makes sure of its tables. */
async function openQueue(url: string): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: url,
    supervise: true,
    schedule: false,
    max: 2,
    application_name: 'domatium queue',
  });
  boss.on('error', swallowed('queue'));
  await boss.start();
  return boss;
}

interface Held {
  readonly id: string;
  readonly retryCount: number;
}

/** Claims work from the queue and does it, each kind beside the others and one thing of a kind at a time. */
export class WorkEngine {
  private boss: PgBoss | null = null;
  private readonly listener: Listener;
  private readonly rounds = new Map<
    string,
    { running: Promise<void> | null; isAgain: boolean; freedAt: number; timer: NodeJS.Timeout }
  >();
  private readonly failing = new Map<string, string>();
  /** Claims that could not be given back, because the database was away just then: by their identity, the kind. */
  private readonly unreturned = new Map<string, string>();
  private isStopped = false;

  constructor(
    private readonly database: Knex,
    private readonly url: string,
    private readonly works: readonly Work[],
  ) {
    this.listener = new Listener({
      url,
      name: 'domatium worker',
      channel: WORK_CHANNEL,
      onNotice: (name) => this.wake(name),
      onConnect: async (client) => {
        // Held as long as this worker lives: whoever can take it alone knows that no worker is at work.
        await client.query('SELECT pg_advisory_lock_shared(4602, 0)');
        for (const { name } of works) this.wake(name);
      },
    });
  }

  async start(): Promise<void> {
    this.boss = await openQueue(this.url);
    for (const { name } of this.works) await this.boss.createQueue(name, { name, policy: 'stately' });
    await this.listener.start();
    await this.takeOver();
    for (const { name, every } of this.works)
      this.rounds.set(name, {
        running: null,
        isAgain: false,
        freedAt: 0,
        timer: setInterval(() => this.wake(name), every),
      });
    for (const { name } of this.works) this.wake(name);
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    for (const { timer } of this.rounds.values()) clearInterval(timer);
    await Promise.all([...this.rounds.values()].flatMap(({ running }) => running ?? []));
    await this.listener.stop();
    await this.boss?.stop({ graceful: false, wait: false });
  }

  /** Whether it hears of work just now. */
  get isListening(): boolean {
    return this.listener.client !== null;
  }

  /** Looks for work of a kind; of all kinds where none of that name is known. A call while it looks makes it look once more. */
  private wake(name: string): void {
    if (!this.rounds.has(name)) for (const one of this.rounds.keys()) this.round(one);
    else this.round(name);
  }

  private round(name: string): void {
    const round = this.rounds.get(name);
    const work = this.works.find((one) => one.name === name);
    if (!round || !work || this.isStopped) return;
    round.isAgain = true;
    round.running ??= this.drain(work, round)
      // Without a database there is no work to be known of: the next look finds it.
      .catch((error: unknown) => this.note(work, error))
      .finally(() => (round.running = null));
  }

  private async drain(work: Work, round: { isAgain: boolean }): Promise<void> {
    while (round.isAgain && !this.isStopped) {
      round.isAgain = false;
      await this.giveBack(work.name);
      await this.freeLost(work.name);
      await this.send(work);
      while (await this.doNext(work)) round.isAgain = true;
    }
  }

  /** One job a key: what waits for its pause, or is being done, is not asked for again. */
  private async send(work: Work): Promise<void> {
    const { name } = work;
    const [keys, open] = await Promise.all([
      work.pending(),
      rowsOf<{ key: string }>(
        this.database,
        "SELECT singleton_key AS key FROM pgboss.job WHERE name = ? AND state < 'completed'",
        [name],
      ),
    ]);
    // Where nothing wants doing, nothing fails, whatever did before.
    if (!keys.length) return this.over(work);
    const held = new Set(open.map(({ key }) => key));
    for (const key of keys) if (!held.has(key)) await this.boss?.send(name, { key }, { singletonKey: key });
  }

  /** Claims one thing and does it; gives whether there was one. */
  private async doNext(work: Work): Promise<boolean> {
    const { database, boss } = this;
    if (!boss || this.isStopped) return false;
    const [job] = await boss
      .fetch<{ key: string }>(work.name, { batchSize: 1, includeMetadata: true })
      .catch((error: { code?: string }) => {
        // Another worker does the same thing at this moment.
        if (error.code === UNIQUE_VIOLATION) return [];
        throw error as Error;
      });
    if (!job) return false;
    const beat = setInterval(() => {
      void database
        .raw("UPDATE pgboss.job SET started_on = now() WHERE name = ? AND id = ? AND state = 'active'", [
          work.name,
          job.id,
        ])
        .catch(swallowed('renewing a claim'));
    }, HEARTBEAT);
    try {
      await logging({ job: `${work.name} ${job.data.key}` }, () => work.run(job.data.key));
      await boss.deleteJob(work.name, job.id);
      this.over(work);
    } catch (error) {
      this.note(work, error);
      await this.postpone(work, job);
    } finally {
      clearInterval(beat);
    }
    return true;
  }

  /** Gives back what could not be given back before, so that nobody has to wait for those claims to run out. */
  private async giveBack(name: string): Promise<void> {
    const ids = [...this.unreturned].flatMap(([id, kind]) => (kind === name ? [id] : []));
    if (!ids.length) return;
    await this.database.raw(
      "UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE name = ? AND id = ANY(?::uuid[]) AND state = 'active'",
      [name, ids],
    );
    for (const id of ids) this.unreturned.delete(id);
  }

  /** Claims that nobody renews are free again; looked at now and then. */
  private async freeLost(name: string): Promise<void> {
    const round = this.rounds.get(name);
    if (!round || Date.now() < round.freedAt + HEARTBEAT) return;
    round.freedAt = Date.now();
    await this.database.raw(
      "UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE name = ? AND state = 'active' AND started_on < now() - ? * interval '1 second'",
      [name, LEASE],
    );
  }

  /** What a killed worker held is free at once, and not only when its claims run out, where no other worker lives. */
  private async takeOver(): Promise<void> {
    const [others] = await rowsOf<{ n: number }>(
      this.database,
      "SELECT count(*)::int AS n FROM pg_locks WHERE locktype = 'advisory' AND classid = 4602 AND granted",
    );
    if ((others?.n ?? 0) > 1) return;
    await this.database.raw(
      "UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE name = ANY(?) AND state = 'active'",
      [this.works.map(({ name }) => name)],
    );
  }

  /** Tried again later and later, by chance a little sooner, and for as long as it takes. */
  private async postpone({ name, pauses: [first, last] }: Work, { id, retryCount }: Held): Promise<void> {
    const pause = Math.min(last, first * 2 ** Math.min(retryCount, 20)) * (0.75 + Math.random() / 4);
    await this.database
      .raw(
        "UPDATE pgboss.job SET state = 'retry', start_after = now() + ? * interval '1 millisecond' WHERE name = ? AND id = ? AND state = 'active'",
        [pause, name, id],
      )
      .catch((error: unknown) => {
        this.unreturned.set(id, name);
        warn('giving back a claim', error);
      });
    setTimeout(() => this.wake(name), pause + 20).unref();
  }

  private note(work: Work, error: unknown): void {
    const why = error instanceof Error ? error.message : String(error);
    warn(work.name, error);
    this.failing.set(work.name, why);
    void this.tell();
  }

  private over(work: Work): void {
    if (this.failing.delete(work.name)) void this.tell();
  }

  /** Says what fails to those who work here; without a database they see that by themselves. */
  private async tell(): Promise<void> {
    const said = this.works.flatMap(({ name, words }) => {
      const why = this.failing.get(name);
      return why !== undefined && words ? [`${words} (${why.slice(0, 200)})`] : [];
    });
    const words = said.length ? [say.itIsTriedAgainUntilIt(said.join(' '))] : [];
    await tellTroubles(
      queryOfKnex(this.database),
      'worker',
      words.map((text) => ({ kind: 'publishing', words: text, portfolioId: null })),
    ).catch(swallowed('telling trouble'));
  }
}
