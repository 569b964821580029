import type { PageId } from '../plan/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
import type { HostRoutes, RouteAnswer, SiteRoute } from './types.js';

/** An answer during `[from, until)`, with the ends as numbers (`Infinity` when open) because lookups compare them. */
export interface Stretch {
  readonly from: number;
  readonly until: number;
  readonly answer: RouteAnswer;
  readonly layer: 'page' | 'after';
}

export interface CompiledHost {
  readonly host: string;
  readonly version: number;
  /** Both layers already laid on each other: what holds at a path, in order of time. */
  readonly paths: ReadonlyMap<string, readonly Stretch[]>;
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

/** A table of these hosts. */
export function compile(hosts: readonly HostRoutes[]): RouteTable {
  const table = new RouteTable();
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
  const paths = new Map<string, readonly Stretch[]>();
  for (const [path, stretches] of byPath) paths.set(path, layered(stretches));
  const sites = [...source.sites].sort((a, b) => b.basePath.length - a.basePath.length);
  return { host: source.host, version: source.version, paths, sites, source };
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
export function stretchAt(stretches: readonly Stretch[], at: number): Stretch | null {
  for (let index = stretches.length - 1; index >= 0; index--) {
    const stretch = stretches[index];
    if (stretch && stretch.from <= at) return at < stretch.until ? stretch : null;
  }
  return null;
}
