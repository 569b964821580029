import type { ChildProcess } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PageId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { PASSWORD, World } from './harness.js';
import { PORTS } from './ports.js';

/** What a hostile reader, author or nobody sends to a real server, with somebody else asking beside them. */
interface Processes {
  startProcess(name: string, environment: Record<string, string>, onLine: (line: string) => void): ChildProcess;
  endProcess(child: ChildProcess): Promise<void>;
  until(claim: () => unknown, what: string, patience?: number): Promise<void>;
}

const PORT = PORTS.hostile.app;
/** The aim is 200 ms (bench/attack.bench.ts measures it); here it only must not be seconds, on a machine at work on other things. */
const LONGEST_WAIT = 2_500;
let world: World;
let processes: Processes;
let server: ChildProcess;
let page: PageId;
const lines: string[] = [];

beforeAll(async () => {
  processes = (await import('../../../tools/processes.mjs' as string)) as Processes;
  world = await World.open();
  world.now = instant(Date.now());
  page = await world.page('/own');
  server = processes.startProcess(
    'server',
    {
      DATABASE_URL: world.url,
      DOMATIUM_DATA: world.folder,
      DOMATIUM_APP_PORT: String(PORT),
      DOMATIUM_LOG_LEVEL: 'info',
      DOMATIUM_QUOTA_GB: '0.004',
    },
    (line) => lines.push(line),
  );
  await processes.until(() => lines.some((line) => line.startsWith('ready')), 'ready', 60_000);
  for (const who of ['owner', 'publisher', 'author', 'reader']) await as(who);
});
afterAll(async () => {
  await processes.endProcess(server);
  await world.close();
});

const at = (path: string) => `http://localhost:${PORT}${path}`;
const signedIn = new Map<string, Record<string, string>>();
async function as(who: string): Promise<Record<string, string>> {
  const known = signedIn.get(who);
  if (known) return known;
  const answer = await fetch(at('/api/session'), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: `${who}@one.example`, password: PASSWORD }),
  });
  const headers = {
    Cookie: answer.headers.get('set-cookie')?.split(';')[0] ?? '',
    'X-Csrf-Token': ((await answer.json()) as { csrf: string }).csrf,
    'Content-Type': 'application/json',
  };
  signedIn.set(who, headers);
  return headers;
}
const send = async (who: string | null, method: string, path: string, body?: string | Buffer, more = {}) =>
  fetch(at(path), {
    method,
    headers: { 'Content-Type': 'application/json', ...(who ? await as(who) : {}), ...more },
    ...(body === undefined ? {} : { body: body as BodyInit }),
  });
const bring = (name: string, bytes: string | Buffer) =>
  send('author', 'POST', `/api/portfolios/1/pictures?name=${encodeURIComponent(name)}`, bytes, {
    'Content-Type': 'application/octet-stream',
  });

/** The longest that the server's loop was held up while something went on, in milliseconds. */
async function waitedDuring(attack: () => Promise<unknown>): Promise<number> {
  const longest = async () => ((await (await fetch(at('/healthz'))).json()) as { longestWait: number }).longestWait;
  await longest();
  await attack();
  return longest();
}
/** Memory of the server, in megabytes. */
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1024;

describe('what holds up the others', () => {
  it('is refused before it is walked: many values, compressed bodies, bodies of nobody', async () => {
    const preview = (changes: string) =>
      send('reader', 'POST', '/api/portfolios/1/releases/preview', `{"changes":[${changes}]}`);
    const draft = `/api/portfolios/1/pages/${page}/draft`;
    const statuses: Record<string, number> = {};
    const waited = await waitedDuring(async () => {
      statuses['600,000 values'] = (await preview(Array(600_000).fill('{}').join())).status;
      statuses['30,000 changes'] = (await preview(Array(30_000).fill('{}').join())).status;
      statuses['2,000 changes'] = (await preview(Array(2_000).fill('{}').join())).status;
      const packed = gzipSync(`[${Array(4_000_000).fill('[]').join()}]`);
      statuses['gzip of nobody'] = (await send(null, 'PUT', draft, packed, { 'Content-Encoding': 'gzip' })).status;
      statuses['gzip of an author'] = (
        await send('author', 'PUT', draft, packed, { 'Content-Encoding': 'gzip' })
      ).status;
      const plain = `[${Array(5_000_000).fill('[]').join()}]`;
      statuses['15 MB of nobody'] = await send(null, 'PUT', draft, plain).then(
        ({ status }) => status,
        // The connection is closed while they still send.
        () => 401,
      );
      statuses['7 MB of an author'] = (await send('author', 'PUT', draft, plain.slice(0, 7_000_000))).status;
      statuses['1,000 deep'] = (await send('author', 'PUT', draft, '['.repeat(1_000) + ']'.repeat(1_000))).status;
    });
    expect(statuses).toEqual({
      '600,000 values': 422,
      '30,000 changes': 422,
      '2,000 changes': 422,
      'gzip of nobody': 401,
      'gzip of an author': 415,
      '15 MB of nobody': 401,
      '7 MB of an author': 422,
      '1,000 deep': 422,
    });
    expect(waited).toBeLessThan(LONGEST_WAIT);
  });
  it('is read by a process of its own: drawings, fonts and pictures that are made to take all', async () => {
    const shape = '<path d="M0 0L1 1" fill="#123"/>';
    const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inner}</svg>`;
    const font = Buffer.alloc(1_600);
    font.write('wOF2');
    font.writeUInt32BE(0x00010000, 4);
    font.writeUInt32BE(1_600, 8);
    font.writeUInt16BE(1, 12);
    font.writeUInt32BE(2_000_000_000, 16);
    const details: Record<string, string> = {};
    const tell = async (name: string, answer: Promise<Response>) => {
      const response = await answer;
      details[name] = `${response.status} ${((await response.json()) as { detail?: string }).detail ?? ''}`;
    };
    const waited = await waitedDuring(async () => {
      await tell('deep', bring('deep.svg', svg('<g>'.repeat(3_000) + '</g>'.repeat(3_000))));
      await tell('many', bring('many.svg', svg(shape.repeat(60_000))));
      await tell('map', bring('map.svg', svg(shape.repeat(4_000))));
      await tell('font', bring('font.woff2', font));
      await tell('packed', bring('packed.svg', gzipSync(svg(shape))));
      await tell('one byte', bring('one.bin', 'x'));
    });
    expect(details).toEqual({
      deep: expect.stringMatching(/^422 .*3,001 deep/) as unknown,
      many: expect.stringMatching(/^422 .*60,001 parts/) as unknown,
      map: expect.stringMatching(/^200/) as unknown,
      font: expect.stringMatching(/^422 .*can’t be read as one/) as unknown,
      packed: expect.stringMatching(/^422 .*compressed/) as unknown,
      'one byte': expect.stringMatching(/^422/) as unknown,
    });
    expect(waited).toBeLessThan(LONGEST_WAIT);
    expect(memory()).toBeLessThan(400);
    expect(readdirSync(join(world.folder, 'blobs/incoming'))).toEqual([]);
  });
  it('is a drawing whatever it begins with, and loses what runs', async () => {
    for (const begin of ['<?pi?>', '<!DOCTYPE x>', '\u{FEFF}  <!-- c -->']) {
      const answer = await bring(
        'x.svg',
        `${begin}<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" data-x="${begin.length}"><script>alert(1)</script><path d="M0 0h9"/></svg>`,
      );
      expect(answer.status).toBe(200);
    }
    const rows = (await world.database('picture').where({ format: 'svg' }).select('original')) as {
      original: string;
    }[];
    expect(rows.length).toBeGreaterThan(0);
    for (const { original } of rows)
      expect(String(await world.publisher.blobs.read('originals', original))).not.toMatch(/script|alert/);
  });
});

describe('what is said to somebody who goes too far', () => {
  it('is when to come again', async () => {
    const answers = await Promise.all(
      Array.from({ length: 700 }, () => send('publisher', 'POST', '/api/portfolios/1/releases/preview', '{}')),
    );
    const refused = answers.filter(({ status }) => status === 429);
    expect([refused.length > 0, Number(refused[0]?.headers.get('retry-after')) > 0]).toEqual([true, true]);
    expect((await send('owner', 'POST', '/api/portfolios/1/releases/preview', '{}')).status).toBe(422);
  });
  it('is not what somebody’s own HTML can reach: it runs on an origin of its own, for its portfolio alone', async () => {
    const markup = '<script>document.title = document.cookie</script>';
    const kept = await send('reader', 'POST', '/api/portfolios/1/own-html', JSON.stringify({ markup }));
    const { key } = (await kept.json()) as { key: string };
    const served = await send('reader', 'GET', `/api/portfolios/1/own-html/${key}`);
    expect([served.status, await served.text()]).toEqual([200, markup]);
    const policy = served.headers.get('content-security-policy') ?? '';
    expect(policy).toMatch(/sandbox allow-scripts /);
    expect(policy).not.toContain('allow-same-origin');
    const elsewhere = await Promise.all(
      [2, 1].map((id) => send('reader', 'GET', `/api/portfolios/${id}/own-html/${id === 1 ? 'f'.repeat(64) : key}`)),
    );
    expect(elsewhere.map(({ status }) => status)).toEqual([404, 404]);
    expect((await fetch(at(`/api/portfolios/1/own-html/${key}`))).status).toBe(401);
  });
  it('is that the portfolio has no room left, and of what', async () => {
    const document = (n: number) => `%PDF-1.4 ${n} ${'x'.repeat(3_000_000)}`;
    const answers: string[] = [];
    for (let n = 0; n < 3; n++) {
      const answer = await bring(`${n}.pdf`, document(n));
      answers.push(`${answer.status} ${((await answer.json()) as { detail?: string }).detail ?? ''}`);
    }
    expect(answers.at(-1)).toMatch(
      /^413 The files of this portfolio have [\d.]+ of [\d.]+ GB; this one has 0.003\. Delete/,
    );
  });
  it('is not that another host, spelling or method leads inside', async () => {
    const ask = (path: string, host: string) =>
      new Promise<string>((done, fail) => {
        const socket = connect(PORT, '127.0.0.1', () =>
          socket.write(`GET ${path} HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`),
        );
        let text = '';
        socket
          .on('data', (part) => (text += part.toString()))
          .on('end', () => done(text))
          .on('error', fail);
      });
    const status = async (path: string, host: string) => Number(/^HTTP\/1\.1 (\d+)/.exec(await ask(path, host))?.[1]);
    for (const host of ['private.localhost', 'PRIVATE.localhost', 'private.localhost.', `Private.Localhost:${PORT}`])
      for (const path of ['/api/session', '/API/session', '/Api/Session'])
        expect([host, path, await status(path, host)]).toEqual([host, path, 404]);
    expect(await status('/api/session', 'localhost')).toBe(401);
    expect(await status('/api/session', `localhost\r\nHost: private.localhost`)).toBe(400);
    expect(await ask('/api/session', 'localhost')).toMatch(/^Cache-Control: no-store\r$/im);
  });
});
