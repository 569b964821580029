import type { Presence } from '@domatium/contracts';
import type { Response } from 'express';
import pg from 'pg';

/** Something that changed in a portfolio, as the browser hears of it. */
export interface PortfolioEvent {
  readonly portfolioId: number;
  readonly kind:
    | 'released'
    | 'out'
    | 'failed'
    | 'draft'
    | 'page'
    | 'prepared'
    | 'campaign'
    | 'task'
    | 'people'
    | 'progress'
    | 'presence'
    | 'review'
    | 'picture'
    | 'stock'
    | 'verified';
  readonly pageIds?: readonly number[];
  readonly releaseId?: number;
  readonly by?: number | null;
  /** Work that somebody waits for, by the name they gave it, and how far it has come (0 to 1). */
  readonly work?: string;
  readonly share?: number;
  readonly presence?: Presence;
}

export const EVENTS_CHANNEL = 'domatium_events';
const HEARTBEAT = 20_000;
const RECONNECT = 1_000;

/** Passes what the database announces on to the browsers that listen, portfolio by portfolio. */
export class EventHub {
  private readonly listeners = new Map<number, Set<Response>>();
  private client: pg.Client | null = null;
  private isClosed = false;
  private readonly heartbeat = setInterval(() => this.beat(), HEARTBEAT);

  constructor(private readonly url: string) {}

  /** Listens, and goes on trying whenever the connection is lost. Browsers are told to look again after a gap. */
  async connect(): Promise<void> {
    if (this.isClosed) return;
    const client = new pg.Client({ connectionString: this.url });
    client.on('error', () => undefined);
    client.on('end', () => {
      if (this.client === client) this.client = null;
      if (!this.isClosed) setTimeout(() => void this.connect(), RECONNECT).unref();
    });
    client.on('notification', ({ payload }) => this.pass(JSON.parse(payload ?? '{}') as PortfolioEvent));
    try {
      await client.connect();
      await client.query(`LISTEN ${EVENTS_CHANNEL}`);
      this.client = client;
      for (const [portfolioId, all] of this.listeners)
        for (const response of all) send(response, 'again', { portfolioId });
    } catch {
      // `end` follows a connection that was made; one that never was has to be tried again from here.
      if (this.client !== client) setTimeout(() => void this.connect(), RECONNECT).unref();
    }
  }

  /** Keeps a response open as a stream of a portfolio's events. */
  add(portfolioId: number, response: Response): void {
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const all = this.listeners.get(portfolioId) ?? new Set();
    this.listeners.set(portfolioId, all.add(response));
    response.on('close', () => all.delete(response));
  }

  private pass(event: PortfolioEvent): void {
    for (const response of this.listeners.get(event.portfolioId) ?? []) send(response, event.kind, event);
  }

  private beat(): void {
    for (const all of this.listeners.values()) for (const response of all) response.write(': still here\n\n');
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.heartbeat);
    for (const all of this.listeners.values()) for (const response of all) response.end();
    await this.client?.end().catch(() => undefined);
  }
}

function send(response: Response, name: string, data: object): void {
  response.write(`event: ${name}\ndata: ${JSON.stringify(data)}\n\n`);
}
