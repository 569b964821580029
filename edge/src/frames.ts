import { frameAt, frameOf, inOrder, partsOf, type Frame, type FrameRoute } from '@domatium/core/frame';
import type { Instant } from '@domatium/core/time';
import { sha256, type StoredFrames } from '@domatium/storage';

/** A frame whose parts are put together, known by a key that is the same where they are. */
export interface ReadyFrame {
  readonly key: string;
  readonly frame: Frame;
}

type ReadyRoute = FrameRoute & { readonly ready: ReadyFrame };

/** What stands around the pages of each host over time. Lies in memory whole: parts are few, and most hosts share them. */
export class Frames {
  private readonly hosts = new Map<string, { readonly stored: StoredFrames; readonly routes: readonly ReadyRoute[] }>();
  private texts = new Map<string, string>();
  private ready = new Map<string, ReadyFrame>();

  /** The frame around a page at a path; `null` where its host has none. */
  at(host: string, path: string, at: Instant): ReadyFrame | null {
    const own = this.hosts.get(host);
    return own ? (frameAt(own.routes, path, at)?.ready ?? null) : null;
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
      this.hosts.set(stored.host, { stored, routes: inOrder(routes) });
    }
    const routes = [...this.hosts.values()].flatMap((host) => host.routes);
    this.ready = new Map(routes.map(({ ready }) => [ready.key, ready]));
    const used = new Set(routes.flatMap(({ parts }) => partsOf(parts)));
    this.texts = new Map([...this.texts].filter(([hash]) => used.has(hash)));
  }

  /** All of it, as it is kept on the disk. */
  stored(): { readonly hosts: StoredFrames[]; readonly texts: [string, string][] } {
    return { hosts: [...this.hosts.values()].map(({ stored }) => stored), texts: [...this.texts] };
  }

  private readyOf({ parts }: FrameRoute): ReadyFrame {
    const key = sha256(JSON.stringify(parts));
    const known = this.ready.get(key);
    if (known) return known;
    const made = { key, frame: frameOf(parts, (hash) => this.texts.get(hash)) };
    this.ready.set(key, made);
    return made;
  }
}
