import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { figure, finish, median } from './print.js';

/** (b) The edge against a bare `node:http` handler that sends the same bytes, and against Express. Load by wrk. */
const PORTS = { edge: 4851, bare: 4852, express: 4853 } as const;
const NGINX = 4854;
type Kind = keyof typeof PORTS;
/** Short turns, many of them: on a machine that is shared, seconds differ by a third. */
const SECONDS = 1;
const ROUNDS = 15;

if (spawnSync('wrk', ['-v']).error) {
  console.log('(b) left out: wrk is not installed (Debian package wrk)');
  process.exit(0);
}

// As it is in operation: bundled, not translated while it runs.
const BUILT = 'edge/dist/http-server.js';
const { bundleInto } = (await import('../tools/bundle.mjs' as string)) as {
  bundleInto: (folder: string, files: Record<string, string>) => Promise<void>;
};
await bundleInto('edge/dist', { 'http-server': 'bench/http-server.ts' });

let etag = '';
let size = 0;
async function serve(kind: Kind): Promise<ChildProcess> {
  const child = spawn(process.execPath, [BUILT, kind, String(PORTS[kind])], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((ready) =>
    child.stdout.on('data', (text: Buffer) => {
      const [, tag = '', bytes] = /ready (\S+) (\d+)/.exec(text.toString()) ?? [];
      etag = tag;
      size = Number(bytes);
      ready();
    }),
  );
  return child;
}

function load(kind: Kind | 'nginx', path: string, headers: Record<string, string>): number {
  const script = join(mkdtempSync(join(tmpdir(), 'domatium-wrk-')), 'load.lua');
  const lines = Object.entries({
    Host: 'bench.example.localhost:4680',
    'User-Agent': 'Mozilla/5.0 (X11; Linux x86_64)',
    'Accept-Encoding': 'gzip, deflate, br',
    ...headers,
  }).map(([name, value]) => `wrk.headers[${JSON.stringify(name)}] = ${JSON.stringify(value)}`);
  writeFileSync(script, lines.join('\n'));
  const { stdout } = spawnSync(
    'wrk',
    ['-t1', '-c64', `-d${SECONDS}s`, '-s', script, `http://127.0.0.1:${kind === 'nginx' ? NGINX : PORTS[kind]}${path}`],
    { encoding: 'utf8' },
  );
  return Number(/Requests\/sec:\s+([\d.]+)/.exec(stdout)?.[1] ?? 0);
}

/** nginx sending a file of the same size, one worker: what a server in C does here. No bound. */
function orientation(): void {
  const folder = mkdtempSync(join(tmpdir(), 'domatium-nginx-'));
  writeFileSync(join(folder, 'page'), Buffer.alloc(size, 'x'));
  const config = `daemon off; worker_processes 1; pid ${folder}/pid; error_log ${folder}/error.log; user root; events {} http { access_log off; keepalive_requests 1000000000; server { listen 127.0.0.1:${NGINX}; root ${folder}; default_type text/html; add_header Content-Encoding br; } }`;
  writeFileSync(join(folder, 'nginx.conf'), config);
  const nginx = spawn('/usr/sbin/nginx', ['-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  spawnSync('sleep', ['1']);
  figure('page, nginx for orientation', load('nginx', '/page', {}), 'requests/s');
  nginx.kill();
}

const children = await Promise.all((Object.keys(PORTS) as Kind[]).map(serve));
console.log(
  `(b) requests per second, keep-alive, 64 connections, one process, page of ${(size / 1024).toFixed(1)} KB compressed`,
);
const cases: [string, string, Record<string, string>][] = [
  ['page', '/page', {}],
  ['304', '/page', { 'If-None-Match': etag }],
  ['redirect', '/old', {}],
];
for (const [name, path, headers] of cases) {
  // Each begins every other round, so that neither always has the warmer machine.
  const rounds = Array.from({ length: ROUNDS }, (_, n) => {
    const kinds: Kind[] = n % 2 ? ['edge', 'bare', 'express'] : ['express', 'bare', 'edge'];
    return Object.fromEntries(kinds.map((kind) => [kind, load(kind, path, headers)])) as Record<Kind, number>;
  });
  const rate = (kind: Kind) => median(rounds.map((round) => round[kind]));
  for (const kind of Object.keys(PORTS) as Kind[]) figure(`${name}, ${kind}`, rate(kind), 'requests/s');
  figure(`${name}, edge to bare`, median(rounds.map(({ edge, bare }) => edge / bare)), '', { atLeast: 0.8 });
  figure(`${name}, edge to Express`, median(rounds.map((round) => round.edge / round.express)), '', { atLeast: 2.5 });
}
if (existsSync('/usr/sbin/nginx')) orientation();
for (const child of children) child.kill();
finish();
process.exit();
