import {
  frameAround,
  frameAt,
  frameOf,
  inOrder,
  markedPages,
  partsOf,
  variantAt,
  type FilledFrame,
  type Frame,
  type FramedPage,
  type FrameRoute,
} from '@domatium/core/frame';
import { groupBy, type PageId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { sha256, type StoredFrames } from '@domatium/storage';

/** A frame whose parts are put together, known by a key that is the same where they are. */
export interface ReadyFrame {
  readonly key: string;
  /** Filled in when it is asked for: what is composed is kept, and so it is asked for once. */
  readonly filled: () => FilledFrame;
}

/** The same around all pages that no link of it leads to, and around each of those with that link marked. */
interface PutTogether {
  readonly parts: Frame;
  readonly marked: ReadonlySet<number>;
  readonly plain: ReadyFrame;
  readonly around: Map<number, ReadyFrame>;
}

type ReadyRoute = FrameRoute & { readonly ready: PutTogether };

function aroundPage({ parts, plain, around }: PutTogether, pageId: PageId): ReadyFrame {
  const known = around.get(pageId);
  if (known) return known;
  const made = { key: sha256(`${plain.key} ${pageId}`), filled: () => frameAround(parts, pageId) };
  around.set(pageId, made);
  return made;
}

interface HostFrames {
  readonly stored: StoredFrames;
  readonly routes: readonly ReadyRoute[];
  /** Of pages with something of their own around them, over time. */
  readonly pages: ReadonlyMap<number, readonly FramedPage[]>;
}

/** What stands around the pages of each host over time. Lies in memory whole: parts are few, and most hosts share them. */
export class Frames {
  private readonly hosts = new Map<string, HostFrames>();
  private texts = new Map<string, string>();
  private ready = new Map<string, PutTogether>();

  /** The frame around a page at a path; `null` where its host has none. */
  at(host: string, path: string, at: Instant, pageId: PageId): ReadyFrame | null {
    const own = this.hosts.get(host);
    const framed = own?.pages.get(pageId);
    const ready = own && frameAt(own.routes, path, at, framed ? variantAt(framed, at) : '')?.ready;
    if (!ready) return null;
    return ready.marked.has(pageId) ? aroundPage(ready, pageId) : ready.plain;
  }

  /** Parts that are not known here, of those these frames are made of. */
  unknownOf(some: readonly StoredFrames[]): string[] {
    const all = new Set(some.flatMap(({ routes }) => routes.flatMap(({ parts }) => partsOf(parts))));
    return [...all].filter((hash) => !this.texts.has(hash));
  }

  /** Takes the frames of hosts in one synchronous step, and forgets what no host has any more. */
  replace(some: readonly StoredFrames[], texts: ReadonlyMap<string, string>, removed: readonly string[] = []): void {
    if (!some.length && !removed.length) return;
    for (const [hash, html] of texts) this.texts.set(hash, html);
    for (const host of removed) this.hosts.delete(host);
    for (const stored of some) {
      const routes = stored.routes.map((route) => ({ ...route, ready: this.readyOf(route) }));
      const pages = groupBy(stored.pages, (page) => page.pageId);
      this.hosts.set(stored.host, { stored, routes: inOrder(routes), pages });
    }
    const routes = [...this.hosts.values()].flatMap((host) => host.routes);
    this.ready = new Map(routes.map(({ ready }) => [ready.plain.key, ready]));
    const used = new Set(routes.flatMap(({ parts }) => partsOf(parts)));
    this.texts = new Map([...this.texts].filter(([hash]) => used.has(hash)));
  }

  /** All of it, as it is kept on the disk. */
  stored(): { readonly hosts: StoredFrames[]; readonly texts: [string, string][] } {
    return { hosts: [...this.hosts.values()].map(({ stored }) => stored), texts: [...this.texts] };
  }

  private readyOf({ parts }: FrameRoute): PutTogether {
    const key = sha256(JSON.stringify(parts));
    const known = this.ready.get(key);
    if (known) return known;
    const whole = frameOf(parts, (hash) => this.texts.get(hash));
    const plain = { key, filled: () => frameAround(whole, null) };
    const made = { parts: whole, marked: markedPages(whole), plain, around: new Map<number, ReadyFrame>() };
    this.ready.set(key, made);
    return made;
  }
}
