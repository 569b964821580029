import { setTimeout as pause } from 'node:timers/promises';
import pg from 'pg';
import { swallowed, warn } from './log.js';
import { TYPES } from './query.js';

/** Pauses between tries grow from the first to the last, each by chance between half and whole, so that nobody comes in step. */
const FIRST_PAUSE = 200;
const LAST_PAUSE = 2_000;
const CONNECT_PATIENCE = 3_000;
/** A connection over which nothing comes back for this long is given up, as a frozen server or a cut cable leaves it. */
const PULSE = 5_000;
const PULSE_PATIENCE = 5_000;

export interface ListenerParts {
  readonly url: string;
  /** As the database's list of connections names it. */
  readonly name: string;
  readonly channel: string;
  readonly onNotice: (payload: string) => void;
  /** Runs on each new connection after it listens; one that fails is given up and made anew. */
  readonly onConnect?: (client: pg.Client) => Promise<void> | void;
}

/**
 * One lasting connection that listens: whatever becomes of it, there is never more than one, and it is made anew with
 * growing pauses for as long as it takes.
 */
export class Listener {
  private current: pg.Client | null = null;
  private readonly stopping = new AbortController();
  private running: Promise<void> | null = null;

  constructor(private readonly parts: ListenerParts) {}

  /** The connection while it stands. */
  get client(): pg.Client | null {
    return this.current;
  }

  /** Begins to connect, and waits for the first try only. */
  async start(): Promise<void> {
    await new Promise<void>((tried) => {
      this.running = this.run(tried);
    });
  }

  async stop(): Promise<void> {
    this.stopping.abort();
    await this.running;
  }

  private async run(tried: () => void): Promise<void> {
    const { signal } = this.stopping;
    for (let failures = 0; !signal.aborted; failures++) {
      const hasHeld = await this.hold(tried);
      tried();
      if (hasHeld) failures = 0;
      const longest = Math.min(LAST_PAUSE, FIRST_PAUSE * 2 ** failures);
      await wait(longest * (0.5 + Math.random() / 2), signal);
    }
  }

  /** Holds one connection to its end; gives whether it stood. */
  private async hold(onStanding: () => void): Promise<boolean> {
    const { url, name, channel, onNotice, onConnect } = this.parts;
    const client = new pg.Client({
      connectionString: url,
      types: TYPES,
      application_name: name,
      connectionTimeoutMillis: CONNECT_PATIENCE,
      keepAlive: true,
    });
    const lost = new AbortController();
    const lose = () => lost.abort();
    client.on('error', lose);
    client.on('end', lose);
    client.on('notification', ({ payload }) => onNotice(payload ?? ''));
    this.stopping.signal.addEventListener('abort', lose);
    try {
      await client.connect();
      await client.query(`LISTEN ${channel}`);
      await onConnect?.(client);
      this.current = client;
      onStanding();
      await this.watch(client, lost.signal);
      return true;
    } catch (error) {
      warn(name, error);
      return false;
    } finally {
      this.current = null;
      this.stopping.signal.removeEventListener('abort', lose);
      await letGo(client);
    }
  }

  private async watch(client: pg.Client, lost: AbortSignal): Promise<void> {
    while (!lost.aborted) {
      await wait(PULSE, lost);
      if (lost.aborted) return;
      const answer = await Promise.race([
        client.query('SELECT 1').then(
          () => true,
          () => false,
        ),
        wait(PULSE_PATIENCE, lost).then(() => false),
      ]);
      if (!answer) return;
    }
  }
}

/** Waits so long, or until it is no longer wanted. */
function wait(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    if (signal.aborted) return done();
    const timer = setTimeout(end, ms);
    function end() {
      clearTimeout(timer);
      signal.removeEventListener('abort', end);
      done();
    }
    signal.addEventListener('abort', end);
  });
}

/** Ends a connection; a socket whose other side is silent is destroyed. */
async function letGo(client: pg.Client): Promise<void> {
  const ended = client.end().catch(swallowed('ending a connection'));
  await Promise.race([ended, pause(500)]);
  (client as unknown as { connection: { stream: { destroy(): void } } }).connection.stream.destroy();
}
