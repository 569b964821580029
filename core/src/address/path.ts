/** Longest path that is kept, in bytes of UTF-8 after normalisation (design rule 4). */
export const MAX_PATH_BYTES = 1024;

/** Paths below this prefix belong to the installation: files named by their hash, not-found pages. */
export const RESERVED_PREFIX = '/-/';
export const HEALTH_PATH = '/healthz';
/** Where a site's not-found page lies, below the site's base path. Never answered as an address of its own. */
export const NOT_FOUND_PATH = '/-/not-found';

const SIMPLE = /^\/(?:[a-z0-9_~-]+(?:\/[a-z0-9_~-]+)*)?$/;

/**
 * One form for all spellings of a path (RFC 3986 section 6.2.2, and our own rules): percent-encoding decoded and
 * made again in one way, dot segments resolved, duplicate slashes and the trailing slash dropped, lower case.
 * `null` for what can't be an address: no leading slash, broken percent-encoding, an encoded slash or NUL,
 * a control character, or more than 1,024 bytes.
 */
export function normalisePath(raw: string): string | null {
  // The fast way for nearly every request.
  if (raw.length <= MAX_PATH_BYTES && SIMPLE.test(raw)) return raw;
  if (raw.charCodeAt(0) !== 47 || raw.length > 8 * MAX_PATH_BYTES) return null;
  const kept: string[] = [];
  for (const part of raw.split('/')) {
    let segment: string;
    try {
      segment = decodeURIComponent(part).normalize('NFC').toLowerCase().normalize('NFC');
    } catch {
      return null;
    }
    if (/[/\\\u0000-\u001f\u007f]/.test(segment)) return null;
    if (segment === '' || segment === '.') continue;
    if (segment === '..') kept.pop();
    else kept.push(encodeSegment(segment));
  }
  const path = '/' + kept.join('/');
  return path.length <= MAX_PATH_BYTES ? path : null;
}

/** Percent-encodes a decoded segment. It came out of `decodeURIComponent`, so it holds no lone surrogates. */
function encodeSegment(segment: string): string {
  return encodeURIComponent(segment).toLowerCase();
}

/** `base` and `path` as one path; both normalised, `/` as either is nothing. */
export function joinPath(base: string, path: string): string {
  if (base === '/') return path;
  return path === '/' ? base : base + path;
}

/** Whether `path` is `base` or lies below it. */
export function isBelow(base: string, path: string): boolean {
  return base === '/' || path === base || (path.startsWith(base) && path.charCodeAt(base.length) === 47);
}

/** The rest of `path` below `base`: `/` where they are the same. */
export function pathBelow(base: string, path: string): string {
  if (base === '/') return path;
  return path.length === base.length ? '/' : path.slice(base.length);
}

/** Whether the installation keeps this path for itself on every host. */
export function isReservedPath(path: string): boolean {
  return path === '/-' || path.startsWith(RESERVED_PREFIX) || path === HEALTH_PATH || path.startsWith('/.well-known');
}

/** What the installation makes itself at the root of each host. */
export type RootFile = { readonly kind: 'robots' } | { readonly kind: 'sitemap'; readonly part: number };

/** The file at a path of the root; `null` for any other path. A sitemap's part is 0 for the one that crawlers begin with. */
export function rootFileAt(path: string): RootFile | null {
  if (path === '/robots.txt') return { kind: 'robots' };
  const found = /^\/sitemap(?:-([1-9]\d{0,4}))?\.xml$/.exec(path);
  return found && { kind: 'sitemap', part: Number(found[1] ?? 0) };
}

/** A path as people read it: percent-encoding undone where that is safe. */
export function readablePath(path: string): string {
  try {
    const text = decodeURIComponent(path);
    // Direction marks and invisible characters could make one address look like another.
    return /[\s\p{C}]/u.test(text) ? path : text;
  } catch {
    return path;
  }
}
