import { absoluteAddress, NOT_FOUND_PATH, type AddressStyle } from '../address/index.js';
import { endsOf, stretchAt, type CompiledHost, type StretchNode } from './table.js';

/**
 * Tells what of a host may be found at an instant, by path: live pages that don't ask to be left out, each with since when
 * it is as it is. Redirects and not-found pages are none. Gives until when that stays so, as far as is planned.
 */
export function eachListed(host: CompiledHost, at: number, see: (path: string, since: number) => void): number {
  let until = Infinity;
  for (const time of host.times) if (time > at && time < until) until = time;
  const { paths, from, ends, hidden } = inOrder(host);
  for (let n = 0; n < paths.length; n++) {
    const path = paths[n] as string;
    let [since, end, hides] = [from[n] as number, ends[n] as number, hidden[n] as number];
    if (since > at) {
      const node = stretchAt(host, host.paths.get(path), at);
      if (!node) continue;
      ({ from: since, until: end } = endsOf(host, node));
      hides = hiddenFromOf(path, node);
    }
    if (end <= at || hides <= at) continue;
    if (hides < until) until = hides;
    see(path, since);
  }
  return until;
}

/** From when on an address is not listed: always where it is no page, never where its page asks for nothing. */
function hiddenFromOf(path: string, { answer }: StretchNode): number {
  if (answer.kind !== 'page' || path.endsWith(NOT_FOUND_PATH)) return -Infinity;
  return answer.hiddenFrom ?? Infinity;
}

/** The paths of a host in their order with what their newest stretches are, side by side: read through they take a tenth of the time. */
interface Ordered {
  readonly paths: readonly string[];
  readonly from: Float64Array;
  readonly ends: Float64Array;
  readonly hidden: Float64Array;
}
const orders = new WeakMap<CompiledHost, Ordered>();

/** Made once for each version of a host, so that every edge says the same in the same order. */
function inOrder(host: CompiledHost): Ordered {
  const known = orders.get(host);
  if (known) return known;
  const paths = [...host.paths.keys()].sort();
  const column = (of: (node: StretchNode, path: string) => number) =>
    Float64Array.from(paths, (path) => of(host.paths.get(path) as StretchNode, path));
  const made = {
    paths,
    from: column((node) => endsOf(host, node).from),
    ends: column((node) => endsOf(host, node).until),
    hidden: column((node, path) => hiddenFromOf(path, node)),
  };
  orders.set(host, made);
  return made;
}

/** The most addresses and bytes of one sitemap (sitemaps.org protocol 0.9). */
export const SITEMAP_MOST = { entries: 50_000, bytes: 50 * 1024 * 1024 } as const;

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';
const SCHEMA = 'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"';
const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  "'": '&apos;',
  '"': '&quot;',
};
const escaped = (text: string) =>
  /[&<>'"]/.test(text) ? text.replace(/[&<>'"]/g, (one) => ESCAPES[one] ?? one) : text;

/** 0 to 59 in two digits. */
const TWO = Array.from({ length: 60 }, (_, n) => String(n).padStart(2, '0'));

/** Instants as the protocol wants them (W3C datetime), to the second; days are written once. */
function instantWriter(): (at: number) => string {
  const days = new Map<number, string>();
  return (at) => {
    const seconds = Math.floor(at / 1000);
    const day = Math.floor(seconds / 86_400);
    let date = days.get(day);
    if (date === undefined) days.set(day, (date = new Date(day * 86_400_000).toISOString().slice(0, 11)));
    const rest = seconds - day * 86_400;
    return `${date}${TWO[Math.floor(rest / 3600)]}:${TWO[Math.floor(rest / 60) % 60]}:${TWO[rest % 60]}Z`;
  };
}

export interface Sitemaps {
  /** None where the host lists nothing, one, or several that an index is made of. */
  readonly parts: readonly Uint8Array[];
  /** Until when they stay as they are. */
  readonly until: number;
}

/** Sitemaps of a host at an instant, of what crawlers may ask for (`isOpen`), written as bytes at once: 50,000 lines as texts are tidied away for longer than they are made. */
export function sitemapsAt(
  host: CompiledHost,
  at: number,
  style: AddressStyle,
  most: { readonly entries: number; readonly bytes: number } = SITEMAP_MOST,
  isOpen: (path: string) => boolean = () => true,
): Sitemaps {
  const home = `<url><loc>${escaped(absoluteAddress(style, host.host, '/').replace(/\/$/, ''))}`;
  const [head, foot] = [`${HEAD}<urlset ${SCHEMA}>\n`, '</urlset>\n'];
  const written = instantWriter();
  const parts: Uint8Array[] = [];
  let [room, used, count] = [new Uint8Array(0), 0, 0];
  const write = (text: string) => {
    // ASCII alone: paths are percent-encoded.
    if (used + text.length > room.length) {
      const wider = new Uint8Array(Math.max(65_536, 2 * (used + text.length)));
      wider.set(room.subarray(0, used));
      room = wider;
    }
    used += encoder.encodeInto(text, room.subarray(used)).written;
  };
  const close = () => {
    write(foot);
    parts.push(room.slice(0, used));
    [used, count] = [0, 0];
  };
  const until = eachListed(host, at, (path, since) => {
    if (!isOpen(path)) return;
    const line = `${home}${escaped(path)}</loc><lastmod>${written(since)}</lastmod></url>\n`;
    if (count && (count >= most.entries || used + line.length + foot.length > most.bytes)) close();
    if (!count) write(head);
    write(line);
    count += 1;
  });
  if (count) close();
  return { parts, until };
}
const encoder = new TextEncoder();

/** The index of several sitemaps. */
export function sitemapIndex(count: number, host: string, style: AddressStyle): string {
  const lines = Array.from(
    { length: count },
    (_, n) => `<sitemap><loc>${escaped(absoluteAddress(style, host, sitemapPath(n + 1)))}</loc></sitemap>\n`,
  );
  return `${HEAD}<sitemapindex ${SCHEMA}>\n${lines.join('')}</sitemapindex>\n`;
}

export const sitemapPath = (number: number) => `/sitemap-${number}.xml`;

/**
 * What crawlers are told (RFC 9309): everything may be asked for, since what is to be left out says so itself, unless a
 * site has lines of its own.
 */
export const robotsText = (sitemap: string | null, own = ''): string =>
  `${own ? own.trimEnd() : 'User-agent: *\nDisallow:'}\n${sitemap === null ? '' : `\nSitemap: ${sitemap}\n`}`;
