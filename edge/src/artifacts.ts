import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { sourcesOf } from '@domatium/core/codes';
import { compose, cutPage, EMPTY_FRAME, type CutPage } from '@domatium/core/frame';
import { isText, packText, tally, type BlobStore } from '@domatium/storage';
import { LRUCache } from 'lru-cache';
import Negotiator from 'negotiator';
import type { ReadyFrame } from './frames.js';
import { SAFETY, safetyWith } from './policy.js';

export type Encoding = 'br' | 'gzip' | 'identity';

/** One encoding of a page, with everything that is sent about it made once. */
export interface Variant {
  readonly body: Buffer;
  readonly etag: string;
  /** Flat name-value pairs, as `writeHead` takes them fastest. */
  readonly ok: readonly string[];
  readonly notModified: readonly string[];
  readonly notFound: readonly string[];
}

/** A file as it is sent: as it is, and smaller where it is text. */
export type LoadedFile = { readonly identity: Buffer } & Partial<Readonly<Record<Encoding, Buffer>>>;

const [packBrotli, packGzip] = [promisify(brotliCompress), promisify(gzip)];

/** A page apart from its frame, cut where that comes. */
interface HeldPage {
  readonly cut: CutPage;
  readonly bytes: number;
}

const CACHE_BYTES = 256 * 1024 * 1024;
const asked = tally('domatium_edge_cache_total', 'Pages asked of the memory cache, by whether it had them.', 'found', [
  'yes',
  'no',
]);

/** Artifacts in a bounded memory cache over the blob folder. */
export class Artifacts {
  private readonly pages: LRUCache<string, HeldPage>;
  /** Pages with their frames, by page, frame and encoding. */
  private readonly composed: LRUCache<string, Variant>;
  private readonly underway = new Map<string, Promise<Variant | null>>();
  private readonly files: LRUCache<string, LoadedFile>;
  private readonly onDisk = new Set<string>();
  /** Pages that are not on this edge's disk, or damaged there. */
  private readonly lacking = new Set<string>();
  /** Told when a page turns out to be lacking. */
  onLack: () => void = () => undefined;

  constructor(
    private readonly blobs: BlobStore,
    cacheBytes = CACHE_BYTES,
  ) {
    this.pages = new LRUCache({ maxSize: cacheBytes / 2, sizeCalculation: ({ bytes }) => bytes + 500 });
    this.composed = new LRUCache({ maxSize: cacheBytes / 2, sizeCalculation: ({ body }) => body.length + 500 });
    // A file that was closed to visitors is forgotten within the hour.
    this.files = new LRUCache({
      maxSize: cacheBytes / 2,
      sizeCalculation: ({ identity, br, gzip: gz }) => identity.length + (br?.length ?? 0) + (gz?.length ?? 0) + 100,
      ttl: 3_600_000,
    });
  }

  /** How many bytes are in memory. */
  get cached(): { readonly pages: number; readonly files: number } {
    return { pages: this.pages.calculatedSize + this.composed.calculatedSize, files: this.files.calculatedSize };
  }

  get lacks(): ReadonlySet<string> {
    return this.lacking;
  }

  /** A page with its frame that is in memory; nearly always it is. */
  inMemory(hash: string, frame: ReadyFrame | null, encoding: Encoding): Variant | undefined {
    const page = this.composed.get(keyOf(hash, frame, encoding));
    asked[page ? 'yes' : 'no'] += 1;
    return page;
  }

  has(hash: string, frame: ReadyFrame | null, encoding: Encoding): boolean {
    return this.composed.has(keyOf(hash, frame, encoding));
  }

  /** The same, put together; `null` where the page is not on the disk, or not what its name says. */
  compose(hash: string, frame: ReadyFrame | null, encoding: Encoding): Promise<Variant | null> {
    const key = keyOf(hash, frame, encoding);
    const known = this.underway.get(key);
    if (known) return known;
    const made = this.composeNow(hash, frame, encoding).finally(() => this.underway.delete(key));
    this.underway.set(key, made);
    return made;
  }

  private async composeNow(hash: string, frame: ReadyFrame | null, encoding: Encoding): Promise<Variant | null> {
    const page = this.pages.get(hash) ?? (await this.load(hash));
    if (!page) return null;
    const filled = frame?.filled() ?? EMPTY_FRAME;
    const whole = Buffer.from(compose(page.cut, filled));
    const body = await PACK[encoding](whole);
    const safety = filled.running ? safetyWith(sourcesOf(filled.running.codes)) : SAFETY;
    const made = variant(`${hash.slice(0, 16)}${frame?.key.slice(0, 16) ?? ''}`, encoding, body, safety);
    this.composed.set(keyOf(hash, frame, encoding), made);
    return made;
  }

  /** A page from the disk; `null` where it is not there, or not what its name says. */
  private async load(hash: string): Promise<HeldPage | null> {
    const whole = await this.blobs.readPage(hash);
    if (!whole) {
      this.onDisk.delete(hash);
      if (!this.lacking.has(hash)) {
        this.lacking.add(hash);
        this.onLack();
      }
      return null;
    }
    this.onDisk.add(hash);
    this.lacking.delete(hash);
    const page = { cut: cutPage(whole.toString()), bytes: whole.length };
    this.pages.set(hash, page);
    return page;
  }

  /** A file that a portfolio published, as it was published; nothing else is a file here. */
  async file(portfolioId: number, hash: string, ending: string): Promise<LoadedFile | null> {
    const key = `${portfolioId} ${hash}.${ending}`;
    const known = this.files.get(key);
    if (known) return known;
    const identity = await this.blobs.readOpen(portfolioId, hash, ending);
    if (!identity) return null;
    // Stylesheets and scripts were packed where they were opened; other texts are packed here, once an hour.
    const packed = isText(ending) ? ((await this.blobs.readPacked(hash)) ?? (await packText(identity))) : {};
    const file = { identity, ...packed };
    this.files.set(key, file);
    return file;
  }

  /** Looks which of these pages are on this edge's own disk. What was seen once is not looked for again. */
  async look(hashes: Iterable<string>): Promise<void> {
    for (const hash of hashes) {
      if (this.onDisk.has(hash)) continue;
      if (await this.blobs.has('pages', hash)) {
        this.onDisk.add(hash);
        this.lacking.delete(hash);
      } else this.lacking.add(hash);
    }
  }

  /** Looks again for what was lacking; gives whether any of it is whole now. */
  async lookAgain(): Promise<boolean> {
    const before = this.lacking.size;
    for (const hash of [...this.lacking]) await this.load(hash);
    return this.lacking.size < before;
  }

  /** Forgets what is lacking that nothing shows any more. */
  keepLacks(needed: ReadonlySet<string>): void {
    for (const hash of this.lacking) if (!needed.has(hash)) this.lacking.delete(hash);
  }
}

const keyOf = (hash: string, frame: ReadyFrame | null, encoding: Encoding) =>
  `${hash} ${frame === null ? '' : frame.key} ${encoding}`;

/** Fast enough for the first visitor, small enough for the others. */
const PACK: Readonly<Record<Encoding, (whole: Buffer) => Promise<Buffer> | Buffer>> = {
  identity: (whole) => whole,
  gzip: (whole) => packGzip(whole, { level: 6 }),
  br: (whole) =>
    packBrotli(whole, {
      params: { [constants.BROTLI_PARAM_QUALITY]: 5, [constants.BROTLI_PARAM_SIZE_HINT]: whole.length },
    }),
};

function variant(name: string, encoding: Encoding, body: Buffer, safety: readonly string[]): Variant {
  const etag = `"${name}-${encoding}"`;
  const base = ['Cache-Control', 'no-cache', 'Vary', 'Accept-Encoding', ...safety];
  const content = [
    'Content-Type',
    'text/html; charset=utf-8',
    'Content-Length',
    String(body.length),
    ...(encoding === 'identity' ? [] : ['Content-Encoding', encoding]),
  ];
  return {
    body,
    etag,
    ok: ['ETag', etag, ...content, ...base],
    notModified: ['ETag', etag, ...base],
    notFound: [...content, ...base],
  };
}

const chosen = new Map<string, Encoding>();
/** Those a page is kept in, the best first. */
const ENCODINGS: readonly Encoding[] = ['br', 'gzip', 'identity'];

/** The best encoding a client takes (RFC 9110, 12.5.3). Clients say one of a handful of things, so answers are kept. */
export function encodingFor(header: string | undefined): Encoding {
  if (!header) return 'identity';
  const known = chosen.get(header);
  if (known) return known;
  const best = new Negotiator({ headers: { 'accept-encoding': header } }).encoding([...ENCODINGS], {
    preferred: ['br', 'gzip'],
  }) as Encoding | undefined;
  if (chosen.size > 500) chosen.clear();
  chosen.set(header, best ?? 'identity');
  return best ?? 'identity';
}
