import type { IncomingMessage, ServerResponse } from 'node:http';
import {
  absoluteAddress,
  HEALTH_PATH,
  hostOfHeader,
  isReservedPath,
  normalisePath,
  rootFileAt,
  withRest,
  type AddressStyle,
  type RootFile,
} from '@domatium/core/address';
import { APART_POLICY, plainNotFoundHtml } from '@domatium/core/render';
import { SECURITY_PATH } from '@domatium/core/root';
import { resolve, type Resolution } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import { isChoice } from '@domatium/core/traffic';
import rangeParser, { type Range } from 'range-parser';
import { encodingFor, type Artifacts, type Variant } from './artifacts.js';
import { swallowed, type StoredHost } from '@domatium/storage';
import type { Ahead } from './ahead.js';
import type { Follower } from './follower.js';
import type { ReadyFrame } from './frames.js';
import { SAFETY } from './policy.js';
import { RootFiles, type SentFile } from './root-files.js';
import type { Visits } from './visits.js';

const MAX_URL = 8_192;
const FILE = /^\/-\/([0-9a-f]{64})\.(css|woff2|webp|avif|jpg|png|svg|pdf|mp4|webm|ics|vtt|csv|txt|js|html)$/;
const FILE_TYPES: Record<string, string> = {
  css: 'text/css; charset=utf-8',
  woff2: 'font/woff2',
  webp: 'image/webp',
  avif: 'image/avif',
  jpg: 'image/jpeg',
  png: 'image/png',
  svg: 'image/svg+xml',
  pdf: 'application/pdf',
  mp4: 'video/mp4',
  webm: 'video/webm',
  ics: 'text/calendar; charset=utf-8',
  vtt: 'text/vtt; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  txt: 'text/plain; charset=utf-8',
  js: 'text/javascript; charset=utf-8',
  html: 'text/html; charset=utf-8',
};
/** A drawing that is opened by itself runs nothing and loads nothing; people's own HTML is on an origin of its own, wherever it is opened. */
const APART: Readonly<Record<string, readonly string[]>> = {
  svg: ['Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox"],
  html: ['Content-Security-Policy', APART_POLICY],
};
const NO_CACHE = ['Cache-Control', 'no-cache'];
const NOT_FOUND = Buffer.from(plainNotFoundHtml());
const GONE = Buffer.from(
  plainNotFoundHtml()
    .replaceAll('Not found', 'Gone')
    .replace('There is no page at this address.', 'This page has been taken away for good.'),
);

export interface HandlerParts {
  readonly follower: Pick<Follower, 'table' | 'hosts' | 'frames' | 'isLoaded' | 'troubles'>;
  readonly artifacts: Artifacts;
  readonly visits: Pick<Visits, 'note'>;
  readonly ahead: Pick<Ahead, 'note'>;
  readonly style: AddressStyle;
  readonly clock: () => Instant;
}

/** A spelling of a path that was asked for, and what is known of it. */
interface AskedPath {
  readonly path: string;
  readonly isReserved: boolean;
  readonly isNormal: boolean;
  /** A page that lies there comes before it. */
  readonly rootFile: RootFile | null;
}

const encodingOf = (request: IncomingMessage) => encodingFor(request.headers['accept-encoding'] as string | undefined);

/** Host, path and now to bytes: what a visitor gets (design section 6). */
export function visitorHandler({
  follower,
  artifacts,
  visits,
  ahead,
  style,
  clock,
}: HandlerParts): (request: IncomingMessage, response: ServerResponse) => void {
  const { table, hosts, frames } = follower;
  const rootFiles = new RootFiles(style);
  // The spellings of hosts and paths that occur are few; both maps are emptied before they could grow without end.
  const hostNames = new Map<string, string | null>();
  const paths = new Map<string, AskedPath | null>();

  function hostOf(header: string): string | null {
    let host = hostNames.get(header);
    if (host === undefined) {
      if (hostNames.size > 5_000) hostNames.clear();
      hostNames.set(header, (host = hostOfHeader(style, header)));
    }
    return host;
  }

  function pathOf(raw: string): AskedPath | null {
    let path = paths.get(raw);
    if (path === undefined) {
      if (paths.size > 20_000) paths.clear();
      const normal = normalisePath(raw);
      path = normal === null ? null : asAsked(normal, raw);
      paths.set(raw, path);
    }
    return path;
  }

  return (request, response) => {
    const { method } = request;
    const target = targetOf(request);
    if (target === null) return end(response, 400, NO_CACHE, 'A request names one host.\n', method === 'HEAD');
    const { url, host: header } = target;
    if (method !== 'GET' && method !== 'HEAD')
      return end(response, 405, ['Allow', 'GET, HEAD'], 'Only GET and HEAD are answered here.\n', false);
    const isHead = method === 'HEAD';
    if (url.length > MAX_URL) return end(response, 414, NO_CACHE, 'That address is too long.\n', isHead);
    const question = url.indexOf('?');
    const raw = question < 0 ? url : url.slice(0, question);
    const query = question < 0 ? '' : url.slice(question);
    if (raw === HEALTH_PATH) return health(response, isHead);
    const name = hostOf(header);
    const host = name === null ? undefined : hosts.get(name);
    if (name === null || !host) return end(response, 421, NO_CACHE, 'No such host here.\n', isHead);
    const asked = pathOf(raw);
    if (asked === null) return end(response, 400, NO_CACHE, 'That is not an address.\n', isHead);
    const { path } = asked;
    if (isChoice(raw)) {
      visits.note(host, raw, 'choice', null, request);
      response.writeHead(204, [...NO_CACHE, ...SAFETY]);
      return response.end();
    }
    if (asked.isReserved && raw !== SECURITY_PATH) return void file(request, response, host, raw, isHead);
    const now = clock();
    const answer = resolve(table, { host: name, path }, now);
    if (asked.rootFile && answer.kind !== 'page')
      return void rootFile(request, response, host, asked.rootFile, now, isHead);
    const own = answer.kind === 'page' ? undefined : ownFile(name, raw, now);
    if (own !== undefined) return void rootFile(request, response, host, { path: raw, text: own }, now, isHead);
    if (asked.isReserved) return void file(request, response, host, raw, isHead);
    switch (answer.kind) {
      case 'page': {
        if (!asked.isNormal) return redirect(response, 301, path + query, isHead);
        visits.note(host, path, 'page', answer.pageId, request);
        if (page(request, response, answer.artifact, frames.at(name, path, now, answer.pageId), 200, isHead)) return;
        return ahead.note(name, path, encodingOf(request));
      }
      case 'redirect': {
        visits.note(host, path, 'redirect', answer.pageId, request);
        return redirect(response, answer.status, placeOf(answer, query), isHead);
      }
      case 'gone':
        visits.note(host, path, 'gone', answer.pageId, request);
        return bytes(response, 410, GONE, isHead);
      case 'not-found':
        visits.note(host, path, 'not-found', answer.pageId, request);
        return answer.page
          ? void page(
              request,
              response,
              answer.page.artifact,
              frames.at(name, path, now, answer.page.pageId),
              404,
              isHead,
            )
          : bytes(response, 404, NOT_FOUND, isHead);
      case 'unknown-host':
        return end(response, 421, NO_CACHE, 'No such host here.\n', isHead);
    }
  };

  /** What the visitor brought is passed on, behind what the target has of its own and before its fragment. */
  function placeOf({ to }: Extract<Resolution, { kind: 'redirect' }>, query: string): string {
    return withRest(to.kind === 'outside' ? to.url : absoluteAddress(style, to.host, to.path) + to.rest, query);
  }

  /** Sends a page; gives whether it was in memory. */
  function page(
    request: IncomingMessage,
    response: ServerResponse,
    hash: string | null,
    frame: ReadyFrame | null,
    status: 200 | 404,
    isHead: boolean,
  ): boolean {
    if (hash === null) return (bytes(response, 404, NOT_FOUND, isHead), true);
    const encoding = encodingOf(request);
    const ready = artifacts.inMemory(hash, frame, encoding);
    if (ready) return (sendPage(request, response, ready, status, isHead), true);
    artifacts.compose(hash, frame, encoding).then(
      (made) =>
        made
          ? sendPage(request, response, made, status, isHead)
          : end(response, 503, NO_CACHE, 'This page can’t be shown just now.\n', isHead),
      () => end(response, 503, NO_CACHE, 'This page can’t be shown just now.\n', isHead),
    );
    return false;
  }

  /** What a site has at a path of its root itself. */
  function ownFile(host: string, path: string, now: Instant): string | undefined {
    const files = frames.rootAt(host, now)?.files;
    return files && Object.hasOwn(files, path) ? files[path] : undefined;
  }

  async function madeAt(
    request: IncomingMessage,
    host: StoredHost,
    file: Parameters<typeof rootFile>[3],
    now: Instant,
  ): Promise<SentFile | null> {
    if ('path' in file) return rootFiles.own(file.path, file.text);
    const compiled = table.hosts.get(host.host);
    const mayPack = encodingOf(request) !== 'identity' && file.kind === 'sitemap';
    return compiled ? rootFiles.at(host, compiled, file, now, mayPack, frames.rootAt(host.host, now)) : null;
  }

  async function rootFile(
    request: IncomingMessage,
    response: ServerResponse,
    host: StoredHost,
    file: RootFile | { readonly path: string; readonly text: string },
    now: Instant,
    isHead: boolean,
  ): Promise<void> {
    const sent = await madeAt(request, host, file, now).catch(swallowed('a file of the root', null));
    if (!sent) return bytes(response, 404, NOT_FOUND, isHead);
    const head = ['ETag', sent.etag, ...NO_CACHE, 'Vary', 'Accept-Encoding', ...SAFETY];
    if (matches(request.headers['if-none-match'], sent.etag)) return void response.writeHead(304, head).end();
    response.writeHead(200, [
      ...['Content-Type', sent.type, 'Content-Length', String(sent.body.length)],
      ...(sent.isPacked ? ['Content-Encoding', 'gzip'] : []),
      ...head,
    ]);
    response.end(isHead ? undefined : sent.body);
  }

  function health(response: ServerResponse, isHead: boolean): void {
    const missing = follower.isLoaded ? null : 'No routes yet: the database can’t be reached and there is no snapshot.';
    end(
      response,
      missing ? 503 : 200,
      ['Content-Type', 'application/json', ...NO_CACHE],
      JSON.stringify({ ok: !missing, missing, degraded: follower.troubles() }) + '\n',
      isHead,
    );
  }

  async function file(
    request: IncomingMessage,
    response: ServerResponse,
    { portfolioId }: StoredHost,
    raw: string,
    isHead: boolean,
  ): Promise<void> {
    const [, hash, ending = ''] = FILE.exec(raw) ?? [];
    const loaded = hash ? await artifacts.file(portfolioId, hash, ending).catch(swallowed('a file', null)) : null;
    if (!hash || !loaded) return bytes(response, 404, NOT_FOUND, isHead);
    const asked = encodingOf(request);
    const encoding = loaded[asked] ? asked : 'identity';
    const body = loaded[encoding] ?? loaded.identity;
    const isText = Boolean(loaded.br ?? loaded.gzip);
    const etag = `"${hash.slice(0, 24)}${isText ? `-${encoding}` : ''}"`;
    // Named by their hash and public: the application shows stored pages on its own origin with them.
    const head = [
      'ETag',
      etag,
      'Cache-Control',
      'public, max-age=31536000, immutable',
      'Access-Control-Allow-Origin',
      '*',
      ...(isText ? ['Vary', 'Accept-Encoding'] : []),
      ...(APART[ending] ?? []),
      ...SAFETY.slice(APART[ending] ? 2 : 0),
    ];
    const part = FILMS.has(ending) ? partOf(request.headers.range, body.length) : null;
    if (part) {
      response.writeHead(206, [
        ...['Content-Type', FILE_TYPES[ending] ?? '', 'Content-Length', String(part.end - part.start + 1)],
        ...['Content-Range', `bytes ${part.start}-${part.end}/${body.length}`, 'Accept-Ranges', 'bytes'],
        ...head,
      ]);
      return void response.end(isHead ? undefined : body.subarray(part.start, part.end + 1));
    }
    if (matches(request.headers['if-none-match'], etag)) return void response.writeHead(304, head).end();
    response.writeHead(200, [
      'Content-Type',
      FILE_TYPES[ending] ?? 'application/octet-stream',
      'Content-Length',
      String(body.length),
      ...(encoding === 'identity' ? [] : ['Content-Encoding', encoding]),
      ...head,
    ]);
    response.end(isHead ? undefined : body);
  }
}

const asAsked = (path: string, raw: string): AskedPath => ({
  ...{ path, isReserved: isReservedPath(path), isNormal: path === raw, rootFile: rootFileAt(path) },
});

/**
 * What a request asks for: in absolute form its target names the host, whatever the header says (RFC 9112, 3.2.2).
 * `null` where it names more than one host, or none that can be read.
 */
function targetOf({ url = '/', headers, rawHeaders }: IncomingMessage): { url: string; host: string } | null {
  let hosts = 0;
  // Node keeps the first of several Host fields and says nothing of the others (RFC 9112, 3.2).
  for (let i = 0; i < rawHeaders.length; i += 2) {
    const name = rawHeaders[i] as string;
    if (name.length === 4 && name.toLowerCase() === 'host' && ++hosts > 1) return null;
  }
  if (url.charCodeAt(0) === 47) return { url, host: headers.host ?? '' };
  const [, host, rest = ''] = /^https?:\/\/([^/?#]*)([^#]*)$/i.exec(url) ?? [];
  return host ? { url: rest.startsWith('/') ? rest : `/${rest}`, host } : null;
}

/** Players ask for films in parts. */
const FILMS = new Set(['mp4', 'webm']);

/** One range of bytes as a request asks for it (RFC 9110, 14.1.2); `null` where it asks for none, for several, or for what is not there. */
function partOf(range: string | undefined, length: number): Range | null {
  const ranges = range === undefined ? -2 : rangeParser(length, range, { combine: true });
  return typeof ranges !== 'number' && ranges.type === 'bytes' && ranges.length === 1 ? (ranges[0] ?? null) : null;
}

function sendPage(
  request: IncomingMessage,
  response: ServerResponse,
  variant: Variant,
  status: 200 | 404,
  isHead: boolean,
): void {
  if (status === 404) {
    response.writeHead(404, variant.notFound as string[]);
  } else if (matches(request.headers['if-none-match'], variant.etag)) {
    response.writeHead(304, variant.notModified as string[]);
    response.end();
    return;
  } else response.writeHead(200, variant.ok as string[]);
  response.end(isHead ? undefined : variant.body);
}

function matches(header: string | undefined, etag: string): boolean {
  return (
    header !== undefined &&
    (header === etag ||
      header.trim() === '*' ||
      header.split(',').some((tag) => tag.trim().replace(/^W\//, '') === etag))
  );
}

/** A Location is ASCII; anything else in a query is percent-encoded, and line ends can't get in. */
function redirect(response: ServerResponse, status: number, place: string, isHead: boolean): void {
  const location = place.replace(/[^\x21-\x7e]/gu, (char) => encodeURIComponent(char));
  end(response, status, ['Location', location, ...NO_CACHE], `${status}\n`, isHead);
}

function bytes(response: ServerResponse, status: number, body: Buffer, isHead: boolean): void {
  response.writeHead(status, [
    'Content-Type',
    'text/html; charset=utf-8',
    'Content-Length',
    String(body.length),
    ...NO_CACHE,
    ...SAFETY,
  ]);
  response.end(isHead ? undefined : body);
}

function end(response: ServerResponse, status: number, head: readonly string[], text: string, isHead: boolean): void {
  const type = head.includes('Content-Type') ? [] : ['Content-Type', 'text/plain; charset=utf-8'];
  response.writeHead(status, [...head, ...type, 'Content-Length', String(Buffer.byteLength(text)), ...SAFETY]);
  response.end(isHead ? undefined : text);
}
