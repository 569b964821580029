import { queryOf, transact, type Spool, swallowed } from '@domatium/storage';
import type pg from 'pg';

const PAUSE = 1_000;

/** Brings what was counted to the database, on a connection and in a loop of its own: however much it is, releases don't wait for it. */
export class Shipper {
  private running: Promise<void> | null = null;
  private readonly timer = setInterval(() => void this.wake(), PAUSE);
  /** Files of lines that could not be read, of this life of the edge and those before. */
  unread: readonly string[] = [];

  constructor(
    private readonly pool: pg.Pool,
    private readonly spool: Spool,
  ) {}

  /** Ships what is there; a call while it runs is served by the same round or the next. */
  wake(): Promise<void> {
    this.running ??= this.ship()
      .catch(swallowed('shipping counts'))
      .finally(() => (this.running = null));
    return this.running;
  }

  private async ship(): Promise<void> {
    await this.spool.close();
    this.unread = await this.spool.unread();
    if (!(await this.spool.hasReady())) return;
    const client = await this.pool.connect();
    try {
      const query = queryOf(client);
      await this.spool.ship((work) => transact(query, () => work(query)));
      this.unread = await this.spool.unread();
      client.release();
    } catch (error) {
      client.release(true);
      throw error;
    }
  }

  /** Ends after what was counted until now has been shipped too: a round that runs may have begun before. */
  async stop(): Promise<void> {
    clearInterval(this.timer);
    await this.running;
    await this.wake();
  }
}
