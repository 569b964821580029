import { open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as pause } from 'node:timers/promises';
import { log, swallowed, type BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { DatabaseClock } from '../database/clock.js';
import { rowsOf } from '../database/context.js';
import type { EventHub } from '../events/index.js';
import { Refused } from '../errors.js';
import { say } from '@domatium/core/words/answers/http';

/** Looked at this often, in milliseconds. */
const LOOK = 3_000;
const PATIENCE = 2_000;
/** Nobody waits longer than this because of what somebody else sends. */
const LONGEST_WAIT = 200;
/** What is written to see whether the disk takes anything. */
const PROBE = Buffer.alloc(64 * 1024, 1);

export interface Condition {
  readonly ok: boolean;
  /** Without this nothing works. */
  readonly missing: string | null;
  /** What works less well than it should, as sentences. */
  readonly degraded: readonly string[];
  /** The longest that requests were held up by work of this process since it was asked last, in milliseconds. */
  readonly longestWait: number;
}

/** Looks after what the server stands on: database, clock, disk, and its own loop. */
export class Health {
  private readonly loop = monitorEventLoopDelay({ resolution: 10 });
  /** Of what was looked at and not told yet, in milliseconds. */
  private longest = 0;
  private readonly clock: DatabaseClock;
  private disk: string | null = null;
  private isReachable = true;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly database: Knex,
    private readonly blobs: BlobStore,
    private readonly hub: EventHub,
  ) {
    this.clock = new DatabaseClock(database);
  }

  async start(): Promise<void> {
    this.loop.enable();
    await this.look();
    this.timer = setInterval(() => void this.look(), LOOK);
  }

  stop(): void {
    this.loop.disable();
    if (this.timer) clearInterval(this.timer);
  }

  private async look(): Promise<void> {
    await Promise.all([this.askClock(), this.tryDisk()]);
    const wait = this.loop.max / 1e6;
    this.loop.reset();
    this.longest = Math.max(this.longest, wait);
    if (wait > LONGEST_WAIT) log.warn({ ms: Math.round(wait) }, 'held up: others waited for the loop');
  }

  private async askClock(): Promise<void> {
    this.isReachable = await within(
      this.clock.ask().then(() => true),
      false,
    );
  }

  private async tryDisk(): Promise<void> {
    const path = join(this.blobs.folder, `probe-${process.pid}`);
    this.disk = await write(path).then(
      () => null,
      (error: NodeJS.ErrnoException) => error.code ?? error.message,
    );
  }

  /** Refuses to decide anything by a clock that is off. */
  refuseSkew(): void {
    if (!this.clock.isOff) return;
    throw new Refused('clock-off', say.nothingIsDecidedByAWrong(this.skewWords()), { retryAfter: 60 });
  }

  private skewWords(): string {
    return this.clock.words(say.theServers);
  }

  async condition(): Promise<Condition> {
    const rows = await within(
      rowsOf<{ words: string }>(this.database, 'SELECT words FROM trouble ORDER BY since'),
      null,
    );
    const missing = rows ? null : say.theDatabaseCantBeReached;
    const longestWait = Math.round(Math.max(this.longest, this.loop.max / 1e6));
    this.longest = 0;
    this.loop.reset();
    const degraded = [
      ...(rows ?? []).map(({ words }) => words),
      ...this.own(),
      ...(this.hub.isListening || missing ? [] : [say.liveUpdatesAreInterruptedThe]),
    ];
    return { ok: !missing, missing, degraded, longestWait };
  }

  /** What goes wrong in this process. */
  own(): string[] {
    return [
      ...(this.disk ? [say.cantWriteToDiskUploadsAre(this.disk)] : []),
      ...(this.clock.isOff ? [say.nothingCanBeReleasedUntilIt(this.skewWords())] : []),
    ];
  }

  /** Browsers that hear what happens. */
  get streams(): number {
    return this.hub.streams;
  }

  get isDatabaseThere(): boolean {
    return this.isReachable;
  }
}

async function write(path: string): Promise<void> {
  const file = await open(path, 'w');
  try {
    await file.writeFile(PROBE);
    await file.datasync();
  } finally {
    await file.close();
    await rm(path, { force: true });
  }
}

async function within<T extends readonly unknown[]>(asked: Promise<T>): Promise<T | []>;
async function within<T, F>(asked: Promise<T>, otherwise: F): Promise<T | F>;
async function within(asked: Promise<unknown>, otherwise: unknown = []): Promise<unknown> {
  return Promise.race([asked.catch(swallowed('health', otherwise)), pause(PATIENCE, otherwise, { ref: false })]);
}
