import { setImmediate } from 'node:timers/promises';
import { resolve, type RouteTable } from '@domatium/core/routing';
import { later, type Instant } from '@domatium/core/time';
import { swallowed } from '@domatium/storage';
import { LRUCache } from 'lru-cache';
import type { Artifacts, Encoding } from './artifacts.js';
import type { Frames } from './frames.js';

/** How long before a flip what is asked for is put together, in milliseconds, and how often that is looked at. */
const BEFORE = 20_000;
const EVERY = 1_000;
/** Addresses that are remembered, each with an encoding. */
const MOST = 4_000;

interface Asked {
  readonly host: string;
  readonly path: string;
  readonly encoding: Encoding;
}

/**
 * Where frames flip, every page of a site is to be put together anew, and visitors of all of them come at that very
 * moment. So that nobody waits for the others, pages that were asked for are put together shortly before, one after the
 * other. Nothing is shown of it before its instant: what is made is only found once it holds.
 */
export class Ahead {
  private readonly asked = new LRUCache<string, Asked>({ max: MOST });
  /** What it was last made ready for: an instant, and the frames as they were then. */
  private ready = '';
  private isAtWork = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly follower: { readonly table: RouteTable; readonly frames: Frames },
    private readonly artifacts: Pick<Artifacts, 'has' | 'compose'>,
    private readonly clock: () => Instant,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.look().catch(swallowed('making pages ahead')), EVERY);
    this.timer.unref();
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** A page that was put together for somebody. */
  note(host: string, path: string, encoding: Encoding): void {
    this.asked.set(`${host} ${path} ${encoding}`, { host, path, encoding });
  }

  /** Makes ready for the next flip, where that is near and nothing was made for it yet. */
  async look(): Promise<void> {
    const now = this.clock();
    const at = this.follower.frames.nextFlip(now);
    const wanted = `${at} ${this.follower.frames.taken}`;
    if (this.isAtWork || at === null || at > later(now, BEFORE) || wanted === this.ready) return;
    this.isAtWork = true;
    try {
      await this.make(at);
      this.ready = wanted;
    } finally {
      this.isAtWork = false;
    }
  }

  /** The most asked for last first, as far as there is time. */
  private async make(at: Instant): Promise<void> {
    const { table, frames } = this.follower;
    for (const { host, path, encoding } of [...this.asked.values()]) {
      if (this.clock() >= at) return;
      const answer = resolve(table, { host, path }, at);
      if (answer.kind !== 'page' || answer.artifact === null) continue;
      const frame = frames.laterAt(host, path, at, answer.pageId);
      if (this.artifacts.has(answer.artifact, frame, encoding)) continue;
      await this.artifacts.compose(answer.artifact, frame, encoding);
      await setImmediate();
    }
  }
}
