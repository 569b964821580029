import type { Presence } from '@domatium/contracts';
import { Listener, swallowed } from '@domatium/storage';
import type { Response } from 'express';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/events';

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
    | 'verified'
    | 'trouble'
    | 'sessions';
  readonly pageIds?: readonly number[];
  readonly releaseId?: number;
  readonly by?: number | null;
  /** Work that somebody waits for, by the name they gave it, and how far it has come (0 to 1). */
  readonly work?: string;
  readonly share?: number;
  readonly presence?: Presence;
  /** Of a saved draft: its version, and when it was saved. What that changes of a page is all said. */
  readonly version?: number;
  readonly at?: number;
  /** Whose text it took the place of: they are told. */
  readonly to?: number;
}

export const EVENTS_CHANNEL = 'domatium_events';
const HEARTBEAT = 20_000;
/** Streams of one person, and of all; windows beyond get no news. */
const [MOST_OF_ONE, MOST] = [30, 2_000];

/** A stream somebody listens to, for as long as they may. */
interface Stream {
  readonly response: Response;
  readonly account: number;
  /** Whether the session stands and the portfolio may be seen. */
  readonly mayGoOn: () => Promise<boolean>;
}

/** Passes what the database announces on to the browsers that listen, portfolio by portfolio. */
export class EventHub {
  private readonly listeners = new Map<number, Set<Stream>>();
  private readonly heartbeat = setInterval(() => this.beat(), HEARTBEAT);

  private readonly listener: Listener;

  constructor(url: string) {
    this.listener = new Listener({
      url,
      name: 'domatium events',
      channel: EVENTS_CHANNEL,
      onNotice: (payload) => this.pass(JSON.parse(payload) as PortfolioEvent),
      onConnect: () => this.sayAgain(),
    });
  }

  /** Listens, and goes on trying whenever the connection is lost. Browsers are told to look again after a gap. */
  connect(): Promise<void> {
    return this.listener.start();
  }

  /** Whether what happens is heard just now. */
  /** How many listen. */
  get streams(): number {
    return [...this.listeners.values()].reduce((sum, { size }) => sum + size, 0);
  }

  get isListening(): boolean {
    return this.listener.client !== null;
  }

  private sayAgain(): void {
    for (const [portfolioId, all] of this.listeners)
      for (const { response } of all) send(response, 'again', { portfolioId });
  }

  /** Keeps a response open as a stream of a portfolio's events. */
  add(portfolioId: number, stream: Stream): void {
    const { response, account } = stream;
    const open = [...this.listeners.values()].flatMap((all) => [...all]);
    if (open.length >= MOST || open.filter((one) => one.account === account).length >= MOST_OF_ONE)
      throw new Refused('too-many-windows', say.tooManyWindowsAreOpenThis, {
        retryAfter: 30,
      });
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      'X-Accel-Buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const all = this.listeners.get(portfolioId) ?? new Set();
    this.listeners.set(portfolioId, all.add(stream));
    response.on('close', () => {
      all.delete(stream);
      if (!all.size) this.listeners.delete(portfolioId);
    });
  }

  private pass(event: PortfolioEvent): void {
    if (event.kind === 'sessions') return void this.lookWhoMay();
    // What concerns everybody names no portfolio.
    for (const [portfolioId, all] of this.listeners)
      if (!event.portfolioId || portfolioId === event.portfolioId)
        for (const { response } of all) send(response, event.kind, { ...event, portfolioId });
    if (event.kind === 'people') void this.lookWhoMay();
  }

  /** Ends the streams of whoever signed out, was removed, or may not look any more. */
  private async lookWhoMay(): Promise<void> {
    for (const all of [...this.listeners.values()])
      for (const stream of [...all])
        if (!(await stream.mayGoOn().catch(swallowed('looking who may', true)))) stream.response.end();
  }

  private beat(): void {
    for (const all of this.listeners.values()) for (const { response } of all) response.write(': still here\n\n');
  }

  async close(): Promise<void> {
    clearInterval(this.heartbeat);
    for (const all of this.listeners.values()) for (const { response } of all) response.end();
    await this.listener.stop();
  }
}

function send(response: Response, name: string, data: object): void {
  response.write(`event: ${name}\ndata: ${JSON.stringify(data)}\n\n`);
}
