import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { absoluteAddress, type AddressStyle, type RootFile } from '@domatium/core/address';
import { readRobots, robotsDecision, rootTypeOf, type RootTexts } from '@domatium/core/root';
import { robotsText, SITEMAP_MOST, sitemapIndex, sitemapsAt, type CompiledHost } from '@domatium/core/routing';
import { sha256, type StoredHost } from '@domatium/storage';
import { LRUCache } from 'lru-cache';

const pack = promisify(gzip);

/** A file of the root as it is sent. */
export interface SentFile {
  readonly type: string;
  readonly etag: string;
  readonly body: Buffer;
  readonly isPacked: boolean;
}

/** Sitemaps of a host as they are from an instant until another, and what was sent of them. */
interface HeldSitemaps {
  readonly compiled: CompiledHost;
  /** Own lines that crawlers heed: what these forbid is not listed. */
  readonly robots: string;
  readonly from: number;
  readonly until: number;
  readonly parts: readonly Uint8Array[];
  readonly sent: Map<string, Promise<SentFile>>;
}

const CACHE_BYTES = 64 * 1024 * 1024;
const XML = 'application/xml; charset=utf-8';

/** What the installation makes itself at the root of each host, of the routes in memory alone: true at every instant. */
export class RootFiles {
  private readonly sitemaps = new LRUCache<string, HeldSitemaps>({
    maxSize: CACHE_BYTES,
    sizeCalculation: ({ parts }) => parts.reduce((sum, { length }) => sum + length, 500),
  });

  constructor(private readonly style: AddressStyle) {}

  /** `null` where there is no such file: a part of a sitemap that has fewer, any of a host that lists nothing or is kept out of search. */
  async at(
    host: StoredHost,
    compiled: CompiledHost,
    file: RootFile,
    at: number,
    mayPack: boolean,
    root: RootTexts | null,
  ): Promise<SentFile | null> {
    if (file.kind === 'robots') {
      const sitemap = host.isOwn ? null : absoluteAddress(this.style, host.host, '/sitemap.xml');
      return sendable('text/plain; charset=utf-8', robotsText(sitemap, root?.robots), false);
    }
    if (host.isOwn) return null;
    const { parts, sent } = this.sitemapsAt(compiled, at, root?.robots ?? '');
    const isOne = parts.length === 1;
    const text =
      file.part > 0
        ? !isOne && parts[file.part - 1]
        : isOne
          ? parts[0]
          : parts.length > 1 && sitemapIndex(parts.length, compiled.host, this.style);
    if (!text) return null;
    const key = `${file.part} ${mayPack}`;
    const known = sent.get(key) ?? sendable(XML, text, mayPack);
    sent.set(key, known);
    return known;
  }

  /** A file that a site has of its own. */
  own(path: string, text: string): Promise<SentFile> {
    return sendable(rootTypeOf(path), text, false);
  }

  private sitemapsAt(compiled: CompiledHost, at: number, robots: string): HeldSitemaps {
    const known = this.sitemaps.get(compiled.host);
    if (known?.compiled === compiled && known.robots === robots && known.from <= at && at < known.until) return known;
    const lines = robots ? readRobots(robots) : null;
    const isOpen = (path: string) => !lines || robotsDecision(lines, '*', path).isAllowed;
    const made = {
      ...{ compiled, robots },
      from: at,
      ...sitemapsAt(compiled, at, this.style, SITEMAP_MOST, isOpen),
      sent: new Map<string, Promise<SentFile>>(),
    };
    this.sitemaps.set(compiled.host, made);
    return made;
  }
}

/** Packed as fast as can be: a long sitemap is as soon made as packed. */
async function sendable(type: string, text: string | Uint8Array, mayPack: boolean): Promise<SentFile> {
  const body = typeof text === 'string' ? Buffer.from(text) : Buffer.from(text.buffer, text.byteOffset, text.length);
  const etag = `"${sha256(body).slice(0, 24)}${mayPack ? '-gzip' : ''}"`;
  return { type, etag, body: mayPack ? await pack(body, { level: 1 }) : body, isPacked: mayPack };
}
