import { pathBelow } from '@domatium/core/address';
import { codesFromText, codesOn, type SiteCodes } from '@domatium/core/codes';
import {
  frameAround,
  frameAt,
  frameOf,
  inOrder,
  markedPages,
  partsOnLines,
  variantAt,
  type FilledFrame,
  type Frame,
  type FramedPage,
  type FrameLine,
  type FrameParts,
  type FrameRoute,
} from '@domatium/core/frame';
import { rootFromText, type RootTexts } from '@domatium/core/root';
import { groupBy, type PageId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { sha256, type StoredFrames } from '@domatium/storage';

/** A frame whose parts are put together, known by a key that is the same where they are. */
export interface ReadyFrame {
  readonly key: string;
  /** Filled in when it is asked for: what is composed is kept, and so it is asked for once. */
  readonly filled: () => FilledFrame;
}

/** The same around all pages that no link of it leads to and on which no code runs; else with that link marked, and with those codes. */
interface PutTogether {
  readonly parts: Frame;
  readonly marked: ReadonlySet<number>;
  readonly codes: SiteCodes | null;
  readonly root: RootTexts | null;
  readonly plain: ReadyFrame;
  readonly others: Map<string, ReadyFrame>;
}

/** A route with what was last asked for of it, and from when until when that stands there. */
type ReadyRoute = FrameRoute & { held: { from: number; until: number; ready: PutTogether } | null };

/** What is taken of frames in one step: those of hosts, the lines they stand on, and the parts on these that are new. */
export interface TakenFrames {
  readonly hosts: readonly StoredFrames[];
  readonly lines: readonly FrameLine[];
  readonly texts: ReadonlyMap<string, string>;
}
export const NO_FRAMES: TakenFrames = { hosts: [], lines: [], texts: new Map() };

/** `path`: within the place of the frame. */
function around({ parts, marked, codes, plain, others }: PutTogether, path: string, pageId: PageId): ReadyFrame {
  const running = codes ? codesOn(codes, path, pageId) : [];
  if (!marked.has(pageId) && !running.length) return plain;
  const which = running.map((code) => codes?.codes.indexOf(code)).join();
  const name = marked.has(pageId) ? `${pageId} ${which}` : which;
  const known = others.get(name);
  if (known) return known;
  const own = codes && running.length ? { codes: running, loader: codes.loader } : null;
  const made = {
    key: sha256(`${plain.key} ${name}`),
    filled: () => frameAround(parts, marked.has(pageId) ? pageId : null, own),
  };
  others.set(name, made);
  return made;
}

/** Whose frame is that of its site. */
const NO_PAGE = 0 as PageId;

interface HostFrames {
  readonly stored: StoredFrames;
  readonly routes: readonly ReadyRoute[];
  /** Of pages with something of their own around them, over time. */
  readonly pages: ReadonlyMap<number, readonly FramedPage[]>;
}

/** What stands around the pages of each host over time. Lies in memory whole: parts are few, and most hosts share them. */
export class Frames {
  private readonly hosts = new Map<string, HostFrames>();
  private lines = new Map<number, FrameLine>();
  private texts = new Map<string, string>();
  private ready = new Map<string, PutTogether>();
  /** How often anything was taken. */
  taken = 0;
  /** When anything begins or ends, in order. */
  private flips: Instant[] = [];

  /** The frame around a page at a path; `null` where its host has none. */
  at(host: string, path: string, at: Instant, pageId: PageId): ReadyFrame | null {
    const route = this.routeAt(host, path, at, pageId);
    if (!route) return null;
    return around(this.heldNow(route, at).ready, pathBelow(route.basePath, path), pageId);
  }

  /** The same at an instant that is to come: what holds now stays at hand. */
  laterAt(host: string, path: string, at: Instant, pageId: PageId): ReadyFrame | null {
    const route = this.routeAt(host, path, at, pageId);
    return route && around(this.heldOn(route, at).ready, pathBelow(route.basePath, path), pageId);
  }

  /** Files of the root of a host; `null` where it has none. */
  rootAt(host: string, at: Instant): RootTexts | null {
    const route = this.routeAt(host, '/', at, NO_PAGE);
    return route && this.heldNow(route, at).ready.root;
  }

  /** When anything stands otherwise for the next time; `null` where nothing is planned. */
  nextFlip(now: Instant): Instant | null {
    return this.flips.find((at) => at > now) ?? null;
  }

  private routeAt(host: string, path: string, at: Instant, pageId: PageId): ReadyRoute | null {
    const own = this.hosts.get(host);
    const framed = own?.pages.get(pageId);
    return own ? frameAt(own.routes, path, at, framed ? variantAt(framed, at) : '') : null;
  }

  /** What stands there at an instant that is about now: found once for as long as it does. */
  private heldNow(route: ReadyRoute, at: Instant): NonNullable<ReadyRoute['held']> {
    const { held } = route;
    return held && held.from <= at && at < held.until ? held : (route.held = this.heldOn(route, at));
  }

  private heldOn(route: ReadyRoute, at: Instant): NonNullable<ReadyRoute['held']> {
    const { parts, from, until } = partsOnLines(route.lines, (id) => this.lines.get(id), at);
    return { from, until, ready: this.readyOf(parts) };
  }

  /** Parts that are not known here, of those on these lines. */
  unknownOf(lines: readonly FrameLine[]): string[] {
    return [...hashesOn(lines)].filter((hash) => !this.texts.has(hash));
  }

  /** Takes the frames of hosts in one synchronous step, and forgets what no host has any more. */
  replace({ hosts, lines, texts }: TakenFrames, removed: readonly string[] = []): void {
    if (!hosts.length && !removed.length) return;
    this.taken += 1;
    for (const [hash, html] of texts) this.texts.set(hash, html);
    for (const line of lines) this.lines.set(line.id, line);
    for (const host of removed) this.hosts.delete(host);
    for (const stored of hosts) {
      const routes = inOrder(stored.routes.map((route): ReadyRoute => ({ ...route, held: null })));
      this.hosts.set(stored.host, { stored, routes, pages: groupBy(stored.pages, (page) => page.pageId) });
    }
    const standing = new Set(
      [...this.hosts.values()].flatMap((host) => host.routes.flatMap((route) => Object.values(route.lines))),
    );
    this.lines = new Map([...this.lines].filter(([id]) => standing.has(id)));
    const used = hashesOn([...this.lines.values()]);
    this.texts = new Map([...this.texts].filter(([hash]) => used.has(hash)));
    this.ready = new Map();
    const stretches = [
      ...[...this.lines.values()].flatMap((line) => line.stretches),
      ...[...this.hosts.values()].flatMap(({ stored }) => [...stored.routes, ...stored.pages]),
    ];
    const moments = new Set(
      stretches.flatMap(({ during: { from, until } }) => (until === null ? [from] : [from, until])),
    );
    this.flips = [...moments].sort((a, b) => a - b);
  }

  /** All of it, as it is kept on the disk. */
  stored(): { readonly hosts: StoredFrames[]; readonly lines: FrameLine[]; readonly texts: [string, string][] } {
    const hosts = [...this.hosts.values()].map(({ stored }) => stored);
    return { hosts, lines: [...this.lines.values()], texts: [...this.texts] };
  }

  private readyOf(parts: FrameParts): PutTogether {
    const key = sha256(JSON.stringify(parts));
    const known = this.ready.get(key);
    if (known) return known;
    const whole = frameOf(parts, (hash) => this.texts.get(hash));
    const plain = { key, filled: () => frameAround(whole, null) };
    const codes = codesFromText(whole.codes);
    const made = {
      parts: whole,
      marked: markedPages(whole),
      codes,
      root: rootFromText(whole.root),
      plain,
      others: new Map<string, ReadyFrame>(),
    };
    this.ready.set(key, made);
    return made;
  }
}

const hashesOn = (lines: readonly FrameLine[]): Set<string> =>
  new Set(lines.flatMap(({ stretches }) => stretches.flatMap(({ parts }) => parts)));
