import { createServer, type RequestListener } from 'node:http';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PageId, PlanRowId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { compile, type Route } from '@domatium/core/routing';
import { instant, type Instant } from '@domatium/core/time';
import { BlobStore, packPage, sha256, Spool, type StoredHost } from '@domatium/storage';
import express from 'express';
import { slotMark } from '@domatium/core/frame';
import { Artifacts, Frames } from '@domatium/edge';
import { EdgeClock, visitorHandler, Visits } from '@domatium/edge';

/** One of the servers that are compared, on the port of its second argument: `edge`, `bare` or `express`. */
const STYLE = { scheme: 'http', suffix: '.localhost', port: 4680 } as const;
const [, , kind, port] = process.argv;
// About 20 KB when compressed, as a long page with its markup is.
let state = 7;
const noise = () =>
  ((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648).toString(36).slice(2, 9);
const head = '<!doctype html><title>Bench</title>';
const page = Buffer.from(
  `${head}${slotMark('head')}${slotMark('above')}${Array.from({ length: 420 }, () => `<p class="line">${Array.from({ length: 11 }, noise).join(' ')}</p>`).join('')}${slotMark('below')}`,
);
const hash = sha256(page);
const blobs = new BlobStore(mkdtempSync(join(tmpdir(), 'domatium-bench-')));
await blobs.write('pages', new Map([[hash, await packPage(page)]]));
const artifacts = new Artifacts(blobs);
const frames = new Frames();
const PART = 'f'.repeat(64);
const always = { from: 0 as Instant, until: null };
frames.replace({
  hosts: [
    {
      ...{ hostId: 1, host: 'bench.example', version: 1, pages: [] },
      routes: [
        {
          variant: '',
          basePath: '/',
          during: always,
          lines: { icons: 1, head: 1, above: 2, below: 2, nav: 1, codes: 1, root: 1 },
        },
      ],
    },
  ],
  lines: [
    { id: 1, stretches: [] },
    { id: 2, stretches: [{ during: always, parts: [PART] }] },
  ],
  texts: new Map([[PART, `<p>${Array.from({ length: 60 }, noise).join(' ')}</p>`]]),
});
const composed = await artifacts.compose(hash, frames.at('bench.example', '/page', 1 as Instant, 1 as PageId), 'br');
if (!composed) throw new Error('The page is missing');
const br = composed;
const location = 'http://bench.example.localhost:4680/page';

function edge(): RequestListener {
  const live = (path: string, n: number): Route => ({
    path,
    layer: 'page',
    during: always,
    answer: { kind: 'page', pageId: n as PageId, revisionId: 1 as RevisionId, claimId: 1 as PlanRowId, artifact: hash },
  });
  const routes: Route[] = [
    live('/page', 1),
    ...Array.from({ length: 2000 }, (_, n) => live(`/other/${n}`, n + 2)),
    {
      path: '/old',
      layer: 'after',
      during: always,
      answer: { kind: 'redirect', status: 301, target: { kind: 'page', pageId: 1 as PageId } },
    },
  ];
  const host: StoredHost = {
    hostId: 1,
    portfolioId: 1 as PortfolioId,
    zone: 'Europe/Oslo',
    isOwn: false,
    host: 'bench.example',
    version: 1,
    routes,
    pages: [{ pageId: 1 as PageId, path: '/page', during: always }],
    sites: [{ basePath: '/', during: always, isPrimary: true, primary: { host: 'bench.example', basePath: '/' } }],
  };
  const visits = new Visits(new Spool(mkdtempSync(join(tmpdir(), 'domatium-spool-')), 'bench'));
  setInterval(() => void visits.flush(instant(Date.now())), 250);
  return visitorHandler({
    follower: {
      table: compile([host], STYLE),
      hosts: new Map([['bench.example', host]]),
      frames,
      isLoaded: true,
      troubles: () => [],
    },
    artifacts,
    visits,
    ahead: { note: () => undefined },
    style: STYLE,
    clock: new EdgeClock().now,
  });
}

/** The least a server can do that sends the same bytes. */
const bare: RequestListener = (request, response) => {
  if (request.url === '/old') {
    response.writeHead(301, redirectHead).end('301\n');
  } else if (request.headers['if-none-match'] === br.etag) {
    response.writeHead(304, br.notModified as string[]).end();
  } else {
    response.writeHead(200, br.ok as string[]).end(br.body);
  }
};
const redirectHead = [
  'Location',
  location,
  ...br.notModified.slice(2).filter((_, index, all) => all[index - (index % 2)] !== 'Vary'),
  'Content-Type',
  'text/plain; charset=utf-8',
  'Content-Length',
  '4',
];

function withExpress(): RequestListener {
  const app = express();
  app.disable('x-powered-by').set('etag', false);
  const heads = (pairs: readonly string[]) =>
    Object.fromEntries(pairs.flatMap((name, index) => (index % 2 ? [] : [[name, pairs[index + 1] ?? '']])));
  app.get('/old', (_, response) => void response.set(heads(redirectHead)).status(301).send('301\n'));
  app.get('/page', (request, response) => {
    if (request.headers['if-none-match'] === br.etag) response.set(heads(br.notModified)).status(304).end();
    else response.set(heads(br.ok)).send(br.body);
  });
  return app as unknown as RequestListener;
}

const listener = kind === 'edge' ? edge() : kind === 'bare' ? bare : withExpress();
process.on('SIGINT', () => process.exit());
createServer({ keepAliveTimeout: 30_000 }, listener).listen(Number(port), '127.0.0.1', () =>
  console.log(`ready ${br.etag} ${br.body.length}`),
);
