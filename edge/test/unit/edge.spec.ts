import { mkdtemp, rm, truncate } from 'node:fs/promises';
import { createServer, request as httpRequest, type IncomingHttpHeaders, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { codesToText } from '@domatium/core/codes';
import type { PageId, PlanRowId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { compile, type Route } from '@domatium/core/routing';
import { rootToText } from '@domatium/core/root';
import type { Instant } from '@domatium/core/time';
import { BlobStore, packPage, sha256, type StoredHost } from '@domatium/storage';
import { Ahead, Artifacts, EdgeClock, Frames, visitorHandler } from '../../src/index.js';
import { SAFETY } from '../../src/policy.js';

const style = { scheme: 'http', suffix: '.localhost', port: 4680 } as const;
const always = { from: 0 as Instant, until: null };
const page = Buffer.from(`<!doctype html><title>One</title>${'<p>The first boat of the morning.</p>'.repeat(400)}`);
let folder = '';
let blobs: BlobStore;
let server: Server;
let artifacts: Artifacts;
let ahead: Ahead;
const frames = new Frames();
let now = 1000 as Instant;
const counted: string[] = [];

function routes(artifact: string): Route[] {
  const live = (path: string, from: number, until: number | null, pageId: number, more: object = {}): Route => ({
    path,
    layer: 'page',
    during: { from, until } as never,
    answer: {
      kind: 'page',
      pageId: pageId as PageId,
      revisionId: 1 as RevisionId,
      claimId: 1 as PlanRowId,
      artifact,
      ...more,
    },
  });
  const to = (path: string, url: string): Route => ({
    path,
    layer: 'after',
    during: always,
    answer: { kind: 'redirect', status: 302, target: { kind: 'outside', url } },
  });
  return [
    live('/', 0, null, 1),
    live('/later', 2000, 3000, 2, { hiddenFrom: 2500 }),
    live('/-/not-found', 0, null, 3),
    to('/out', 'https://o.example/x?y=1#z'),
    {
      path: '/old',
      layer: 'after',
      during: always,
      answer: { kind: 'redirect', status: 301, target: { kind: 'page', pageId: 1 as PageId } },
    },
    { path: '/gone', layer: 'after', during: always, answer: { kind: 'gone' } },
  ];
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'domatium-edge-'));
  blobs = new BlobStore(folder);
  const hash = sha256(page);
  await blobs.write('pages', new Map([[hash, await packPage(page)]]));
  await blobs.write('files', new Map([[sha256('body{}'), Buffer.from('body{}')]]));
  for (const ending of ['css', 'html', 'mp4', 'svg']) await blobs.openTo(1, sha256('body{}'), ending);
  const html = Buffer.from('%PDF-1.4<html>');
  await blobs.write('files', new Map([[sha256(html), html]]));
  await blobs.openTo(1, sha256(html), 'pdf');
  await blobs.openTo(2, sha256('body{}'), 'js');
  const host: StoredHost = {
    hostId: 1,
    portfolioId: 1 as PortfolioId,
    zone: 'UTC',
    isOwn: false,
    host: 'a.example',
    version: 1,
    routes: routes(hash),
    pages: [{ pageId: 1 as PageId, path: '/', during: always }],
    sites: [{ basePath: '/', during: always, isPrimary: true, primary: { host: 'a.example', basePath: '/' } }],
  };
  const follower = {
    table: compile([host], style),
    hosts: new Map([['a.example', host]]),
    frames,
    isLoaded: true,
    troubles: () => [],
  };
  artifacts = new Artifacts(blobs);
  ahead = new Ahead(follower, artifacts, () => now);
  server = createServer(
    { maxHeaderSize: 16_384 },
    visitorHandler({
      follower,
      artifacts,
      ahead,
      visits: { note: (_, path, outcome) => void counted.push(`${outcome} ${path}`) },
      style,
      clock: () => now,
    }),
  );
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
});
afterAll(async () => {
  server.close();
  await rm(folder, { recursive: true });
});

function ask(
  path: string,
  options: { method?: string; headers?: Record<string, string>; host?: string } = {},
): Promise<{ status: number; headers: IncomingHttpHeaders; body: Buffer }> {
  return new Promise((done, fail) => {
    const asked = httpRequest(
      {
        port: (server.address() as AddressInfo).port,
        host: '127.0.0.1',
        path,
        method: options.method ?? 'GET',
        headers: { Host: options.host ?? 'a.example.localhost:4680', ...options.headers },
      },
      (response) => {
        const parts: Buffer[] = [];
        response
          .on('data', (part: Buffer) => parts.push(part))
          .on('end', () =>
            done({ status: response.statusCode ?? 0, headers: response.headers, body: Buffer.concat(parts) }),
          );
      },
    );
    asked.on('error', fail).end();
  });
}

describe('the edge', () => {
  it('sends a page in the encoding that is asked for, with what keeps it safe', async () => {
    const [plain, br, gz] = [
      await ask('/'),
      await ask('/', { headers: { 'Accept-Encoding': 'gzip, deflate, br' } }),
      await ask('/', { headers: { 'Accept-Encoding': 'br;q=0, gzip' } }),
    ];
    expect(
      plain.body.equals(page) && brotliDecompressSync(br.body).equals(page) && gunzipSync(gz.body).equals(page),
    ).toBe(true);
    expect([plain.headers['content-encoding'], br.headers['content-encoding'], gz.headers['content-encoding']]).toEqual(
      [undefined, 'br', 'gzip'],
    );
    expect(br.headers).toMatchObject({
      vary: 'Accept-Encoding',
      'cache-control': 'no-cache',
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'strict-origin-when-cross-origin',
    });
    expect(br.headers['content-security-policy']).toMatch(/default-src 'none'.*frame-ancestors 'none'/);
  });
  it('answers 304 to what it sent, and only to that', async () => {
    const { headers } = await ask('/', { headers: { 'Accept-Encoding': 'br' } });
    const again = (tag: string, encoding: string) =>
      ask('/', { headers: { 'If-None-Match': tag, 'Accept-Encoding': encoding } }).then(({ status }) => status);
    expect([
      await again(headers.etag as string, 'br'),
      await again(`"x", ${headers.etag}`, 'br'),
      await again('*', 'br'),
      await again(headers.etag as string, 'gzip'),
      await again('"x"', 'br'),
    ]).toEqual([304, 304, 304, 200, 200]);
  });
  it('takes the host of an absolute-form target, and one Host only (RFC 9112, 3.2)', async () => {
    const status = (...lines: string[]) =>
      new Promise<string>((done, fail) => {
        const socket = connect((server.address() as AddressInfo).port, '127.0.0.1', () =>
          socket.end([...lines, 'Connection: close', '', ''].join('\r\n')),
        );
        let text = '';
        socket
          .on('data', (part) => (text += part.toString('latin1')))
          .on('end', () => done(text.slice(9, 12)))
          .on('error', fail);
      });
    const [ours, theirs] = ['a.example.localhost:4680', 'b.example.localhost:4680'];
    expect(await status(`GET http://${ours}/ HTTP/1.1`, `Host: ${ours}`)).toBe('200');
    expect(await status(`GET http://${ours} HTTP/1.1`, `Host: ${theirs}`)).toBe('200');
    expect(await status(`GET http://${theirs}/ HTTP/1.1`, `Host: ${ours}`)).toBe('421');
    expect(await status(`GET http:///x HTTP/1.1`, `Host: ${ours}`)).toBe('400');
    expect(await status('GET / HTTP/1.1', `Host: ${ours}`, `host: ${ours}`)).toBe('400');
    expect(await status('GET / HTTP/1.1', `Host: ${ours}`)).toBe('200');
  });
  it('answers GET and HEAD only', async () => {
    const head = await ask('/', { method: 'HEAD' });
    expect([head.status, head.body.length, head.headers['content-length']]).toEqual([200, 0, String(page.length)]);
    for (const method of ['POST', 'PUT', 'DELETE', 'OPTIONS', 'PATCH'])
      expect(await ask('/', { method }).then(({ status, headers }) => [status, headers.allow])).toEqual([
        405,
        'GET, HEAD',
      ]);
  });
  it('gives one hop, and passes the query on', async () => {
    const where = async (path: string) => {
      const { status, headers } = await ask(path);
      return [status, headers.location];
    };
    expect(await where('/old?a=1&b=%C3%B8%20')).toEqual([301, 'http://a.example.localhost:4680/?a=1&b=%C3%B8%20']);
    expect(await where('/out?a=1')).toEqual([302, 'https://o.example/x?y=1&a=1#z']);
    expect(await where('//Old//')).toEqual([301, 'http://a.example.localhost:4680/']);
    expect(await where('/./')).toEqual([301, '/']);
  });
  it('shows the site’s not-found page, and nothing by the exact address of what is off', async () => {
    for (const path of ['/nope', '/later', '/-/nope']) expect((await ask(path)).status).toBe(404);
    expect((await ask('/nope')).body.equals(page)).toBe(true);
    expect((await ask('/-/not-found')).status).toBe(404);
    expect((await ask('/gone')).status).toBe(410);
    now = 2000 as Instant;
    expect((await ask('/later')).status).toBe(200);
    now = 2999 as Instant;
    expect((await ask('/later')).status).toBe(200);
    now = 3000 as Instant;
    expect((await ask('/later')).status).toBe(404);
  });
  it('says what may be found at the moment it is asked, in no more words than have to be sent', async () => {
    const listed = async () =>
      [...(await ask('/sitemap.xml')).body.toString().matchAll(/<loc>(.*?)<\/loc>/g)].map((m) => m[1]);
    const home = 'http://a.example.localhost:4680';
    now = 1000 as Instant;
    expect(await listed()).toEqual([`${home}/`]);
    now = 2000 as Instant;
    expect(await listed()).toEqual([`${home}/`, `${home}/later`]);
    // It asks to be left out from then on.
    now = 2500 as Instant;
    expect(await listed()).toEqual([`${home}/`]);
    const { status, headers, body } = await ask('/sitemap.xml', { headers: { 'Accept-Encoding': 'gzip' } });
    expect([status, headers['content-type'], headers['content-encoding']]).toEqual([
      ...[200, 'application/xml; charset=utf-8', 'gzip'],
    ]);
    expect(gunzipSync(body).toString()).toContain(`<loc>${home}/</loc>`);
    const again = { 'If-None-Match': headers.etag ?? '', 'Accept-Encoding': 'gzip' };
    expect((await ask('/sitemap.xml', { headers: again })).status).toBe(304);
    expect((await ask('/sitemap.xml', { method: 'HEAD' })).body).toHaveLength(0);
    const robots = await ask('/robots.txt');
    expect([robots.status, robots.body.toString()]).toEqual([
      200,
      `User-agent: *\nDisallow:\n\nSitemap: ${home}/sitemap.xml\n`,
    ]);
    expect((await ask('/sitemap-1.xml')).status).toBe(404);
    now = 3000 as Instant;
  });
  it('refuses hosts that are not ours, broken addresses and what is too long, and keeps healthz', async () => {
    for (const host of ['localhost:4680', '127.0.0.1', 'b.example.localhost', 'a.example'])
      expect((await ask('/', { host })).status).toBe(421);
    expect((await ask('/healthz', { host: 'localhost' })).status).toBe(200);
    for (const path of ['/%', '/a%2fb', '/%00']) expect((await ask(path)).status).toBe(400);
    expect((await ask(`/${'x'.repeat(9000)}`)).status).toBe(414);
    expect((await ask('/', { headers: { 'X-Big': 'x'.repeat(17_000) } })).status).toBe(431);
  });
  it('serves files by their hash for ever', async () => {
    const { status, headers, body } = await ask(`/-/${sha256('body{}')}.css`);
    expect([status, headers['content-type'], body.toString()]).toEqual([200, 'text/css; charset=utf-8', 'body{}']);
    expect(headers['cache-control']).toContain('immutable');
    expect((await ask(`/-/${sha256(page)}.css`)).status).toBe(404);
  });
  it('sends what a stylesheet was packed to where it was opened, and packs it where that is cut short', async () => {
    const sent = async (sheet: string, cut: (packed: string) => Promise<void>) => {
      const hash = sha256(sheet);
      await blobs.write('files', new Map([[hash, Buffer.from(sheet)]]));
      await blobs.pack(hash);
      await cut(blobs.fileOf('packed', hash));
      await blobs.openTo(1, hash, 'css');
      const { body } = await ask(`/-/${hash}.css`, { headers: { 'Accept-Encoding': 'br' } });
      expect(brotliDecompressSync(body).toString()).toBe(sheet);
      return { body, packed: await blobs.readPacked(hash) };
    };
    const whole = await sent('main{color:#123}'.repeat(300), () => Promise.resolve());
    expect(whole.packed?.br?.equals(whole.body)).toBe(true);
    expect(gunzipSync(whole.packed?.gzip ?? Buffer.alloc(0)).toString()).toBe('main{color:#123}'.repeat(300));
    const cut = await sent('main{color:#456}'.repeat(300), (path) => truncate(path, 20));
    expect(cut.packed).toBeNull();
    // It goes with its file.
    const hash = sha256('main{color:#123}'.repeat(300));
    await blobs.remove('files', hash);
    expect(await blobs.has('packed', hash)).toBe(false);
  });
  it('sends text smaller to who takes it, each form with a mark of its own, and pictures as they are', async () => {
    const sheet = 'main{color:#123456}'.repeat(200);
    const picture = Buffer.alloc(2000);
    await blobs.write('files', new Map([sheet, picture].map((one) => [sha256(Buffer.from(one)), Buffer.from(one)])));
    await blobs.openTo(1, sha256(Buffer.from(sheet)), 'css');
    await blobs.openTo(1, sha256(picture), 'webp');
    const css = (accepts: string) => ask(`/-/${sha256(sheet)}.css`, { headers: { 'Accept-Encoding': accepts } });
    const [plain, br, gzip] = [await css('identity'), await css('br, gzip'), await css('gzip')];
    expect(plain.body.toString()).toBe(sheet);
    expect(brotliDecompressSync(br.body).toString()).toBe(sheet);
    expect(gunzipSync(gzip.body).toString()).toBe(sheet);
    expect([plain, br, gzip].map(({ headers }) => headers['content-encoding'])).toEqual([undefined, 'br', 'gzip']);
    expect(br.body.length).toBeLessThan(sheet.length / 10);
    expect(new Set([plain, br, gzip].map(({ headers }) => headers.etag)).size).toBe(3);
    expect([plain, br].map(({ headers }) => headers.vary)).toEqual(['Accept-Encoding', 'Accept-Encoding']);
    const known = await ask(`/-/${sha256(sheet)}.css`, {
      headers: { 'Accept-Encoding': 'br', 'If-None-Match': String(br.headers.etag) },
    });
    expect(known.status).toBe(304);
    const shown = await ask(`/-/${sha256(picture)}.webp`, { headers: { 'Accept-Encoding': 'br' } });
    expect([shown.headers['content-encoding'], shown.headers.vary, shown.body.length]).toEqual([
      undefined,
      undefined,
      2000,
    ]);
  });
  it('keeps drawings and people’s own HTML on an origin of their own, wherever they are opened', async () => {
    const policy = async (ending: string) =>
      String((await ask(`/-/${sha256('body{}')}.${ending}`)).headers['content-security-policy']);
    expect(await policy('svg')).toMatch(/default-src 'none'.*sandbox$/);
    expect(await policy('html')).toMatch(/sandbox allow-scripts/);
    expect(await policy('html')).not.toContain('allow-same-origin');
    expect(await policy('css')).toMatch(/script-src 'self'/);
  });
  it.each([
    ['bytes=0-1', 206, 'bo', 'bytes 0-1/6'],
    ['bytes=4-', 206, '{}', 'bytes 4-5/6'],
    ['bytes=-1', 206, '}', 'bytes 5-5/6'],
    ['bytes=0-99', 206, 'body{}', 'bytes 0-5/6'],
    ['bytes=9-', 200, 'body{}', undefined],
    ['bytes=1-0', 200, 'body{}', undefined],
    ['pages=1', 200, 'body{}', undefined],
  ])('gives films in the parts that players ask for: %s', async (range, status, words, part) => {
    const got = await ask(`/-/${sha256('body{}')}.mp4`, { headers: { Range: range } });
    expect([got.status, got.body.toString(), got.headers['content-range']]).toEqual([status, words, part]);
    const style = await ask(`/-/${sha256('body{}')}.css`, { headers: { Range: range } });
    expect([style.status, style.body.toString()]).toEqual([200, 'body{}']);
  });
  it('lets no header be smuggled in through an address', async () => {
    const raw = await new Promise<string>((done) => {
      const socket = connect((server.address() as AddressInfo).port, '127.0.0.1', () =>
        socket.write(
          'GET /old?x=%0d%0aSet-Cookie:a=b HTTP/1.1\r\nHost: a.example.localhost\r\nConnection: close\r\n\r\n',
        ),
      );
      let text = '';
      socket.on('data', (part) => (text += part.toString())).on('close', () => done(text));
    });
    expect(raw).not.toMatch(/^Set-Cookie/im);
    expect(raw).toContain('Location: http://a.example.localhost:4680/?x=%0d%0aSet-Cookie:a=b');
  });
  it('gives files as what they are, to visitors of the portfolio that opened them', async () => {
    const pdf = sha256('%PDF-1.4<html>');
    const css = sha256('body{}');
    const got = async (path: string) => {
      const { status, headers } = await ask(path);
      return [status, headers['content-type']];
    };
    expect(await got(`/-/${pdf}.pdf`)).toEqual([200, 'application/pdf']);
    expect(await got(`/-/${css}.css`)).toEqual([200, 'text/css; charset=utf-8']);
    for (const path of [`/-/${pdf}.html`, `/-/${pdf}.js`, `/-/${css}.js`]) expect((await got(path))[0]).toBe(404);
  });
  it('counts what it answered', () =>
    expect(counted).toEqual(expect.arrayContaining(['page /', 'redirect /old', 'gone /gone', 'not-found /nope'])));
});

it('never lets time go back by itself, follows small corrections, and asks the database about leaps', () => {
  let [wall, elapsed] = [1_000_000, 0];
  const time = new EdgeClock(
    () => wall,
    () => elapsed,
  );
  const clock = time.now;
  const pass = (ms: number) => {
    wall += ms;
    elapsed += ms;
    return clock();
  };
  expect(pass(500)).toBe(1_000_500);
  wall -= 60_000;
  expect(clock()).toBe(1_000_500);
  expect(pass(250.5)).toBe(1_000_750);
  expect(pass(0.5)).toBe(1_000_751);
  wall += 61_000;
  expect(clock()).toBe(wall);
  // A leap of two days takes no page out before its time …
  const true_ = clock() + 1_000;
  wall += 2 * 86_400_000;
  expect(pass(1_000)).toBe(true_);
  expect(time.follow(true_)).toBe(2 * 86_400_000);
  expect(clock()).toBe(true_);
  // … and where the database says that it has come, it has.
  expect([time.follow(wall), clock()]).toEqual([0, wall]);
  // A machine that started ahead is taken back.
  time.follow(wall - 10_000);
  expect(clock()).toBe(wall - 10_000);
});

describe('what a site has beside its pages', () => {
  it('is served for its time: files of the root, lines for crawlers, codes with the policy that allows them', async () => {
    const lines = { icons: 1, head: 1, above: 1, below: 1, nav: 1, codes: 2, root: 3 };
    const during = { from: 50_000 as Instant, until: 60_000 as Instant };
    const code = { purpose: 'measuring', src: 'https://count.example/c.js', place: 'head', load: 'after' } as const;
    const codes = [{ ...code, data: [], hosts: ['https://take.example'], on: 'all' as const, except: ['/later'] }];
    const own = { '/ads.txt': 'one', '/out': 'never', '/.well-known/security.txt': 'Contact: mailto:a@a.example\n' };
    frames.replace({
      hosts: [
        {
          ...{ hostId: 1, host: 'a.example', version: 1, pages: [] },
          routes: [{ basePath: '/', variant: '', during: always, lines }],
        },
      ],
      lines: [
        { id: 1, stretches: [] },
        { id: 2, stretches: [{ during, parts: ['codes'] }] },
        { id: 3, stretches: [{ during, parts: ['root'] }] },
      ],
      texts: new Map([
        ['codes', codesToText({ loader: '/-/l.js', codes })],
        ['root', rootToText({ robots: 'User-agent: *\nDisallow: /$\n', files: own })],
      ]),
    });
    const policy = async () => String((await ask('/')).headers['content-security-policy']);
    const bodyOf = async (path: string) => (await ask(path)).body.toString();
    now = 49_999 as Instant;
    expect([await policy(), (await ask('/ads.txt')).status]).toEqual([SAFETY[1], 404]);
    expect(await bodyOf('/sitemap.xml')).toContain('<loc>');
    now = 50_000 as Instant;
    expect(await policy()).toContain("script-src 'self' https://count.example/c.js https://take.example;");
    expect(await policy()).toMatch(/; connect-src https:\/\/count.example https:\/\/take.example$/);
    const file = await ask('/ads.txt');
    expect([file.status, file.headers['content-type'], file.body.toString()]).toEqual([
      ...[200, 'text/plain; charset=utf-8', 'one'],
    ]);
    expect(await bodyOf('/.well-known/security.txt')).toBe('Contact: mailto:a@a.example\n');
    expect(await bodyOf('/robots.txt')).toMatch(/^User-agent: \*\nDisallow: \/\$\n\nSitemap: /);
    // What crawlers may not ask for is not listed.
    expect((await ask('/sitemap.xml')).status).toBe(404);
    expect([(await ask('/constructor')).status, (await ask('/.well-known/other')).status]).toEqual([404, 404]);
    counted.length = 0;
    expect((await ask('/-/choice/measuring=1&advertising=0')).status).toBe(204);
    expect((await ask('/-/choice/who=me')).status).toBe(404);
    expect(counted).toEqual(['choice /-/choice/measuring=1&advertising=0']);
    now = 60_000 as Instant;
    expect([await policy(), (await ask('/ads.txt')).status]).toEqual([SAFETY[1], 404]);
    frames.replace({ hosts: [], lines: [], texts: new Map() }, ['a.example']);
  });
});

describe('before a flip', () => {
  it('pages that were asked for are put together, and nothing of it is shown early', async () => {
    const flip = 100_000 as Instant;
    const lines = { icons: 1, head: 1, above: 2, below: 1, nav: 1, codes: 1, root: 1 };
    frames.replace({
      hosts: [
        {
          hostId: 1,
          host: 'a.example',
          version: 1,
          pages: [],
          routes: [{ basePath: '/', variant: '', during: always, lines }],
        },
      ],
      lines: [
        { id: 1, stretches: [] },
        { id: 2, stretches: [{ during: { from: flip, until: null }, parts: ['p'] }] },
      ],
      texts: new Map([['p', '<p>Storm</p>']]),
    });
    now = 79_000 as Instant;
    const before = (await ask('/', { headers: { 'Accept-Encoding': 'br' } })).headers.etag;
    const isReady = () => artifacts.has(sha256(page), frames.laterAt('a.example', '/', flip, 1 as PageId), 'br');
    await ahead.look();
    expect(isReady()).toBe(false);
    now = 81_000 as Instant;
    await ahead.look();
    expect(isReady()).toBe(true);
    expect((await ask('/', { headers: { 'Accept-Encoding': 'br' } })).headers.etag).toBe(before);
    now = flip;
    expect((await ask('/', { headers: { 'Accept-Encoding': 'br' } })).headers.etag).not.toBe(before);
    frames.replace({ hosts: [], lines: [], texts: new Map() }, ['a.example']);
  });
});
