import { placeOfUrl, type AddressStyle, type NamedPlace } from '../address/index.js';
import type { PageId } from '../plan/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
import type { HostRoutes, RouteAnswer, SiteRoute } from './types.js';

/** An answer during `[from, until)`; an open end is `Infinity`. */
export interface Stretch {
  readonly from: number;
  readonly until: number;
  readonly answer: RouteAnswer;
  readonly layer: 'page' | 'after';
}

/**
 * A stretch as lookups read it: the newest of an address, linked to the one before it. Its ends lie in the host's
 * `times` at `2 × index` and behind it, because two numbers side by side are one reach into memory where two
 * properties of an object would be two more; that is half the time of an answer.
 */
export interface StretchNode {
  readonly index: number;
  readonly answer: RouteAnswer;
  readonly layer: 'page' | 'after';
  readonly earlier: StretchNode | null;
}

export interface CompiledHost {
  readonly host: string;
  readonly version: number;
  /** Both layers already laid on each other: what holds at a path, the newest first. */
  readonly paths: ReadonlyMap<string, StretchNode>;
  readonly times: Float64Array;
  /** Longest base path first, so that the first that contains a path is the one. */
  readonly sites: readonly SiteRoute[];
  readonly source: HostRoutes;
}

export interface PagePlace {
  readonly host: string;
  readonly path: string;
  readonly during: Interval;
}

/**
 * All hosts, ready to be asked. `replaceHosts` swaps any number of hosts in one synchronous step, so that no request
 * sees half of a release; that is why a table is changed in place and not copied (100,000 pages would be copied each time).
 */
export class RouteTable {
  readonly hosts = new Map<string, CompiledHost>();
  private readonly places = new Map<PageId, PagePlace[]>();
  private readonly named = new Map<string, NamedPlace | null>();

  /** `style`: how absolute addresses look outside, to know those of our own. */
  constructor(private readonly style: AddressStyle) {}

  replaceHosts(hosts: readonly CompiledHost[]): void {
    for (const compiled of hosts) {
      this.removeHost(compiled.host);
      this.hosts.set(compiled.host, compiled);
      for (const { pageId, path, during } of compiled.source.pages) {
        const place = { host: compiled.host, path, during };
        const known = this.places.get(pageId);
        if (known) known.push(place);
        else this.places.set(pageId, [place]);
      }
    }
  }

  removeHost(host: string): void {
    const old = this.hosts.get(host);
    if (!old) return;
    this.hosts.delete(host);
    for (const { pageId } of old.source.pages) {
      const rest = this.places.get(pageId)?.filter((place) => place.host !== host) ?? [];
      if (rest.length) this.places.set(pageId, rest);
      else this.places.delete(pageId);
    }
  }

  /** The place on a host of the same portfolio that an address outside names, or `null` where it leads away from us. */
  ownPlace(url: string, from: CompiledHost): NamedPlace | null {
    let place = this.named.get(url);
    if (place === undefined) {
      if (this.named.size > MOST_NAMED) this.named.clear();
      this.named.set(url, (place = placeOfUrl(this.style, url)));
    }
    const host = place && this.hosts.get(place.host);
    return host && host.source.portfolioId === from.source.portfolioId ? place : null;
  }

  /** Where a page lies over time. */
  placesOf(pageId: PageId): readonly PagePlace[] {
    return this.places.get(pageId) ?? [];
  }

  /** Where a page lies at an instant, or `null`. */
  placeAt(pageId: PageId, at: Instant): PagePlace | null {
    for (const place of this.placesOf(pageId)) if (place.during.from <= at && at < endOf(place.during)) return place;
    return null;
  }
}

/** Addresses outside that are remembered once they were read. */
const MOST_NAMED = 20_000;

/** A table of these hosts. */
export function compile(hosts: readonly HostRoutes[], style: AddressStyle): RouteTable {
  const table = new RouteTable(style);
  table.replaceHosts(hosts.map(compileHost));
  return table;
}

/** One host with its layers laid on each other. */
export function compileHost(source: HostRoutes): CompiledHost {
  const byPath = new Map<string, Stretch[]>();
  for (const { path, layer, during, answer } of source.routes) {
    const stretch = { from: during.from, until: endOf(during), answer, layer };
    const known = byPath.get(path);
    if (known) known.push(stretch);
    else byPath.set(path, [stretch]);
  }
  const times: number[] = [];
  const paths = new Map<string, StretchNode>();
  for (const [path, stretches] of byPath) {
    let newest: StretchNode | null = null;
    for (const { from, until, answer, layer } of layered(stretches)) {
      newest = { index: times.length / 2, answer, layer, earlier: newest };
      times.push(from, until);
    }
    if (newest) paths.set(path, newest);
  }
  const sites = [...source.sites].sort((a, b) => b.basePath.length - a.basePath.length);
  return { host: source.host, version: source.version, paths, times: Float64Array.from(times), sites, source };
}

function layered(stretches: Stretch[]): Stretch[] {
  const byStart = (a: Stretch, b: Stretch) => a.from - b.from;
  const top = stretches.filter(({ layer }) => layer === 'page').sort(byStart);
  if (top.length === stretches.length) return top;
  const under = stretches.filter(({ layer }) => layer === 'after');
  const shown = under.flatMap((stretch) => {
    let parts = [stretch];
    for (const { from, until } of top)
      parts = parts.flatMap((part) =>
        [
          { ...part, until: Math.min(part.until, from) },
          { ...part, from: Math.max(part.from, until) },
        ].filter((rest) => rest.from < rest.until),
      );
    return parts;
  });
  return [...top, ...shown].sort(byStart);
}

/** The stretch that holds at an instant. Nearly every address has one to three, so they are tried from the newest. */
export function stretchAt(host: CompiledHost, newest: StretchNode | undefined, at: number): StretchNode | null {
  const { times } = host;
  for (let node: StretchNode | null | undefined = newest; node; node = node.earlier) {
    const place = node.index * 2;
    if ((times[place] as number) <= at) return at < (times[place + 1] as number) ? node : null;
  }
  return null;
}

/** Everything that holds at a path, in order of time. */
export function stretchesOf(host: CompiledHost | undefined, path: string): Stretch[] {
  const found: Stretch[] = [];
  for (let node = host?.paths.get(path) ?? null; host && node; node = node.earlier)
    found.unshift({ ...endsOf(host, node), answer: node.answer, layer: node.layer });
  return found;
}

/** When a stretch begins and ends. */
export function endsOf(host: CompiledHost, { index }: StretchNode): { from: number; until: number } {
  return { from: host.times[index * 2] as number, until: host.times[index * 2 + 1] as number };
}
