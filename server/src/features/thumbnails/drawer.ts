import { spawn } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setPriority, tmpdir } from 'node:os';
import { join } from 'node:path';
import { RESERVED_PREFIX } from '@domatium/core/address';
import { sha256, type BlobStore, log, warn } from '@domatium/storage';
import type { Knex } from 'knex';
import sharp from 'sharp';
import { isTrouble, type Work } from '../../platform/work/index.js';
import { wholePage } from '../../heart/publishing/index.js';
import * as store from './store.js';

const LOOK = 1_000;
/** A page that takes longer is given up: its process is killed. It draws when nothing else wants the processor. */
const PATIENCE = 40_000;
const PRIORITY = 10;
const MOST_KEPT = 5_000;
const [WIDTH, HEIGHT, SHOWN] = [1160, 870, 320];
const TYPES: Readonly<Record<string, string>> = {
  css: 'text/css',
  webp: 'image/webp',
  avif: 'image/avif',
  woff2: 'font/woff2',
  js: 'text/javascript',
};

/**
 * Draws the pages somebody wants to see small, one at a time, each in a Chromium of its own that is gone afterwards:
 * so memory stays bounded whatever a page holds. The browser reaches this process alone.
 */
export class ThumbnailDrawer {
  private server: Server | null = null;

  constructor(
    private readonly database: Knex,
    private readonly blobs: BlobStore,
    private readonly chromium: string,
  ) {}

  async start(): Promise<void> {
    this.server = createServer((request, response) => {
      const { port } = this.server?.address() as AddressInfo;
      const own = `http://127.0.0.1:${port}/`;
      const url = request.url ?? '/';
      // What is asked of others than this process is not there.
      const path = url.startsWith(own) ? url.slice(own.length - 1) : url;
      void this.answer(path).then(({ type, bytes }) => {
        response.writeHead(bytes ? 200 : 404, { 'Content-Type': type }).end(bytes ?? '');
      });
    });
    await new Promise<void>((done) => this.server?.listen(0, '127.0.0.1', done));
  }

  stop(): void {
    this.server?.closeAllConnections();
    this.server?.close();
  }

  /** Draws what is wanted, the newest wish first; what can't be drawn is given up after some tries. */
  work(): Work {
    return {
      name: 'thumbnails',
      every: LOOK,
      pauses: [1_000, 60_000],
      pending: async () => {
        const key = await store.nextWanted(this.database);
        return key === null ? [] : [key];
      },
      run: async (key) => {
        const known = await store.thumbnailOf(this.database, key);
        if (!known || known.file !== null) return;
        try {
          const picture = await this.draw(key);
          const file = sha256(picture);
          await this.blobs.write('thumbnails', new Map([[file, picture]]));
          await store.noteMade(this.database, key, file);
          for (const old of await store.forgetOldest(this.database, MOST_KEPT))
            await this.blobs.remove('thumbnails', old);
        } catch (error) {
          if (isTrouble(error)) throw error;
          log.warn({ err: error, picture: key.slice(0, 12) }, 'a small picture can’t be drawn');
          await store.noteFailed(this.database, key);
        }
      },
    };
  }

  private async draw(key: string): Promise<Buffer> {
    const folder = await mkdtemp(join(tmpdir(), 'domatium-thumbnail-'));
    try {
      const { port } = this.server?.address() as AddressInfo;
      const shot = join(folder, 'page.png');
      await run(this.chromium, [
        ...['--headless', '--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--hide-scrollbars'],
        ...['--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
        // Whatever address it asks for, it asks this process, which tunnels nothing: no other port is reached.
        ...[`--proxy-server=http://127.0.0.1:${port}`, '--proxy-bypass-list=<-loopback>'],
        '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1',
        `--user-data-dir=${folder}`,
        `--window-size=${WIDTH},${HEIGHT}`,
        `--screenshot=${shot}`,
        `http://127.0.0.1:${port}/${key}`,
      ]);
      return await sharp(await readFile(shot))
        .resize(SHOWN)
        .webp({ quality: 78 })
        .toBuffer();
    } finally {
      await rm(folder, { recursive: true, force: true, maxRetries: 3 });
    }
  }

  private async answer(url: string): Promise<{ type: string; bytes: Buffer | null }> {
    const [, hash = '', ending = ''] = /^\/-\/([0-9a-f]{64})\.(\w+)$/.exec(url) ?? [];
    if (url.startsWith(RESERVED_PREFIX))
      return { type: TYPES[ending] ?? 'application/octet-stream', bytes: await this.blobs.read('files', hash) };
    const wanted = await store.thumbnailOf(this.database, url.slice(1));
    const html = wanted && (await wholePage(this.database, this.blobs, wanted.page));
    return { type: 'text/html; charset=utf-8', bytes: html === null ? null : Buffer.from(html) };
  }
}

function run(command: string, args: readonly string[]): Promise<void> {
  return new Promise((done, fail) => {
    // A group of its own: what it starts is killed with it.
    const child = spawn(command, args, { stdio: 'ignore', detached: true });
    if (child.pid) setPriority(child.pid, PRIORITY);
    const timer = setTimeout(() => kill(), PATIENCE);
    const kill = () => {
      try {
        if (child.pid) process.kill(-child.pid, 'SIGKILL');
      } catch (error) {
        // It may be gone already.
        if ((error as { code?: string }).code !== 'ESRCH') warn('killing a Chromium', error);
      }
    };
    child.on('error', (error) => {
      clearTimeout(timer);
      fail(error);
    });
    child.on('exit', (code, signal) => {
      clearTimeout(timer);
      kill();
      if (code === 0) done();
      else fail(new Error(`Chromium ended with ${code ?? signal}`));
    });
  });
}
