import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { instant } from '@domatium/core/time';
import { PASSWORD, World } from './harness.js';
import { PORTS as ALL_PORTS } from './ports.js';

interface Processes {
  startProcess(
    name: string,
    environment: Record<string, string>,
    onLine: (line: string) => void,
    options: { entry: string[] },
  ): ChildProcess;
  endProcess(child: ChildProcess): Promise<void>;
  until(claim: () => unknown, what: string, patience?: number): Promise<void>;
}
const processes = (await import('../../../tools/processes.mjs' as string)) as Processes;
const { bundle, BUNDLES } = (await import('../../../tools/bundle.mjs' as string)) as {
  bundle: () => Promise<void>;
  BUNDLES: Record<string, string>;
};
const PORTS = ALL_PORTS.open;
const REPOSITORY = join(import.meta.dirname, '../../..');

/** The configuration and the settings of docs/OPERATING.md, with the ports and certificates of this test. */
let world: World;
let folder: string;
const children: ChildProcess[] = [];

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'domatium-open-'));
  execFileSync(
    'openssl',
    [
      ...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2'],
      ...['-subj', '/CN=pages.company.example', '-keyout', join(folder, 'key.pem'), '-out', join(folder, 'cert.pem')],
    ],
    { stdio: 'ignore' },
  );
  world = await World.open();
  world.now = instant(Date.now());
  const [, , block = ''] = readFileSync(join(REPOSITORY, 'docs/OPERATING.md'), 'utf8').split('```sh\n');
  const written = Object.fromEntries(
    block
      .split('\n```')[0]
      ?.split('\n')
      .map((line) => line.split('=') as [string, string]) ?? [],
  );
  const settings = {
    ...written,
    DATABASE_URL: world.url,
    DOMATIUM_DATA: world.folder,
    DOMATIUM_APP_PORT: String(PORTS.app),
    DOMATIUM_EDGE_PORT: String(PORTS.edge),
    DOMATIUM_SMTP_URL: '',
    DOMATIUM_LOG_LEVEL: 'info',
  };
  // What `npm start` runs: nothing is compiled any more.
  await bundle();
  for (const name of ['server', 'worker', 'edge']) {
    let isReady = false;
    const hear = (line: string) => (isReady ||= line.startsWith('ready'));
    children.push(processes.startProcess(name, settings, hear, { entry: [BUNDLES[name] ?? ''] }));
    await processes.until(() => isReady, `${name} ready`, 60_000);
  }
  const conf = readFileSync(join(REPOSITORY, 'docs/nginx.conf'), 'utf8')
    .replaceAll('127.0.0.1:4600', `127.0.0.1:${PORTS.app}`)
    .replaceAll('127.0.0.1:4680', `127.0.0.1:${PORTS.edge}`)
    .replaceAll('listen 443 ssl', `listen 127.0.0.1:${PORTS.tls} ssl`)
    .replaceAll('listen 80', `listen 127.0.0.1:${PORTS.plain}`)
    .replace(/ssl_certificate_key .*;/g, `ssl_certificate_key ${join(folder, 'key.pem')};`)
    .replace(/ssl_certificate \/.*;/g, `ssl_certificate ${join(folder, 'cert.pem')};`);
  mkdirSync(join(folder, 'temp'));
  const temp = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
    (name) => `${name}_temp_path ${folder}/temp/${name};`,
  );
  // Visitors of this test come from loopback; two of its addresses stand for two of them.
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off; pid ${folder}/nginx.pid; error_log ${folder}/error.log; events {}\nhttp { access_log off; ${temp.join(' ')}\n${conf}\n}`,
  );
  children.push(spawn('/usr/sbin/nginx', ['-c', join(folder, 'nginx.conf')], { stdio: 'ignore' }));
  await processes.until(
    async () =>
      await ask('pages.company.example', '/healthz').then(
        ({ status }) => status === 200,
        () => false,
      ),
    'nginx',
    20_000,
  );
});
afterAll(async () => {
  for (const child of children.reverse()) await processes.endProcess(child);
  await world.close();
  rmSync(folder, { recursive: true });
});

interface Got {
  readonly status: number;
  readonly headers: Record<string, string | string[] | undefined>;
  readonly body: string;
}
/** Asks nginx, as a visitor of this address of loopback. */
function ask(
  host: string,
  path: string,
  {
    from = '127.0.0.1',
    method = 'GET',
    body = '',
    headers = {},
  }: Partial<{ from: string; method: string; body: string; headers: Record<string, string> }> = {},
): Promise<Got> {
  return new Promise((done, fail) => {
    request(
      {
        ...{ host: '127.0.0.1', port: PORTS.tls, servername: host, rejectUnauthorized: false, localAddress: from },
        ...{
          path,
          method,
          agent: new Agent(),
          headers: { Host: host, 'User-Agent': 'Mozilla/5.0 (X11) AppleWebKit/537.36', ...headers },
        },
      },
      (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (part: string) => (text += part));
        response.on('end', () => done({ status: response.statusCode ?? 0, headers: response.headers, body: text }));
      },
    )
      .on('error', fail)
      .end(body);
  });
}

const signIn = (email: string, password: string, from: string) =>
  ask('pages.company.example', '/api/session', {
    from,
    method: 'POST',
    body: JSON.stringify({ email, password }),
    headers: { 'Content-Type': 'application/json', Origin: 'https://pages.company.example' },
  });

describe('behind nginx, with real names and certificates', () => {
  it('gives pages under https and no port: canonical and redirects', async () => {
    const page = await world.page('/open');
    await world.press([world.put(page, 'now')]);
    await processes.until(async () => (await ask('one.example', '/open')).status === 200, 'published', 20_000);
    const got = await ask('one.example', '/open');
    expect(/<link rel="canonical" href="([^"]*)"/.exec(got.body)?.[1]).toBe('https://one.example/open');
    world.now = instant(Date.now());
    await world.press([
      {
        act: 'move',
        pageId: page,
        siteId: 1,
        path: '/opened',
        at: 'now',
        leaves: { kind: 'redirect', status: 301, target: { kind: 'page', pageId: page } },
      } as never,
    ]);
    await processes.until(async () => (await ask('one.example', '/open')).status === 301, 'moved', 20_000);
    expect((await ask('one.example', '/open')).headers['location']).toMatch(/^(https:\/\/one\.example)?\/opened$/);
    expect((await ask('nobody.example', '/')).status).toBe(421);
  });
  it('counts two visitors with one browser as two, and one who says to be somebody else as one', async () => {
    const visitors = ['127.0.0.2', '127.0.0.3', '127.0.0.3'];
    for (const [n, from] of visitors.entries())
      await ask('one.example', '/opened', { from, headers: { 'X-Forwarded-For': `10.0.0.${n}` } });
    const counted = async () =>
      (await world
        .database('visit_day')
        .where({ path: '/opened', outcome: 'page' })
        .sum({ answers: 'answers', visits: 'visits' })
        .first()) as unknown as { answers: string | null; visits: string | null };
    await processes.until(async () => Number((await counted()).answers) >= 3, 'counted', 20_000);
    expect(Number((await counted()).visits)).toBe(2);
  });
  it('limits tries to sign in by the real address, and gives a cookie that https alone carries', async () => {
    const tries: number[] = [];
    for (let n = 0; n < 8; n++)
      tries.push((await signIn('reader@one.example', `wrong-${n}-wrong`, '127.0.0.4')).status);
    expect(tries.at(-1)).toBe(429);
    const elsewhere = await signIn('reader@one.example', PASSWORD, '127.0.0.5');
    expect([elsewhere.status, String(elsewhere.headers['set-cookie'])]).toEqual([
      200,
      expect.stringMatching(/^__Host-domatium=.*Secure/),
    ]);
    expect(elsewhere.headers['strict-transport-security']).toBeDefined();
  });
  it('tells figures and health on private ports alone', async () => {
    const told = async (port: number, path: string) => (await fetch(`http://127.0.0.1:${port}${path}`)).text();
    expect(await told(PORTS.app + 70, '/metrics')).toMatch(
      /domatium_http_request_seconds_count\{endpoint="POST \/api\/session",status="429"\} \d/,
    );
    expect(await told(PORTS.app + 71, '/metrics')).toMatch(/^domatium_oldest_release_not_out_seconds 0$/m);
    expect(await told(PORTS.app + 71, '/metrics')).toMatch(/^domatium_publish_seconds_count [1-9]/m);
    expect(await told(PORTS.app + 72, '/metrics')).toMatch(/domatium_edge_answers_total\{outcome="page"\} [1-9]/);
    for (const [index] of children.slice(0, 3).entries())
      expect(JSON.parse(await told(PORTS.app + 70 + index, '/healthz'))).toMatchObject({ ok: true, degraded: [] });
    expect((await ask('pages.company.example', '/metrics')).body).not.toContain('domatium_http');
  });
});
