import { Agent, get, request } from 'node:http';
import { gzipSync } from 'node:zlib';
import { instant } from '@domatium/core/time';
import type { PageId } from '@domatium/core/plan';
import { publishReleases } from '@domatium/server';
import { PASSWORD } from '../server/test/process/harness.js';
import { figure, finish, median } from './print.js';
import { PORTS, Stack, tools, visit } from './stack.js';

/** What hostile requests make others wait: the longest that the server's loop was held up while each went on. */
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
const page = await world.page('/own');
await stack.start('server');
const app = `http://localhost:${PORTS.app}`;
const signedIn = new Map<string, Record<string, string>>();
for (const who of ['reader', 'author']) {
  const answer = await fetch(`${app}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: `${who}@one.example`, password: PASSWORD }),
  });
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? '';
  signedIn.set(who, { Cookie: cookie, 'X-Csrf-Token': ((await answer.json()) as { csrf: string }).csrf });
}
const send = (
  who: string | null,
  method: string,
  path: string,
  body: string | Buffer,
  more: Record<string, string> = {},
) =>
  new Promise<number>((done) => {
    const headers = { 'Content-Type': 'application/json', ...(who ? signedIn.get(who) : {}), ...more };
    const asked = request(`${app}/api/portfolios/1${path}`, { method, headers }, (response) => {
      response.resume().on('end', () => done(response.statusCode ?? 0));
    });
    // Refused while it is still being sent.
    asked.on('error', () => done(0)).end(body);
  });
const bring = (bytes: string | Buffer) =>
  send('author', 'POST', `/pictures?name=x.svg`, bytes, { 'Content-Type': 'application/octet-stream' });
const preview = (count: number) =>
  send('reader', 'POST', '/releases/preview', `{"changes":[${Array(count).fill('{}').join()}]}`);
const draft = `/pages/${page}/draft`;
const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inner}</svg>`;
const shape = '<path d="M0 0L1 1" fill="#123"/>';
const arrays = `[${Array(5_000_000).fill('[]').join()}]`;
const packed = gzipSync(arrays);
const font = Buffer.alloc(1_600);
font.write('wOF2');
font.writeUInt32BE(2_000_000_000, 16);

const ATTACKS: Record<string, () => Promise<unknown>> = {
  'a preview with 600,000 {} (it ran out of memory)': () => preview(600_000),
  'a preview with 30,000 {} (16 s)': () => preview(30_000),
  'a preview with 2,000 wrong changes': () => preview(2_000),
  'a draft of nobody, 15 MB as gzip (5.7 s)': () => send(null, 'PUT', draft, packed, { 'Content-Encoding': 'gzip' }),
  'six drafts of nobody, 15 MB each (33 s)': () =>
    Promise.all(Array.from({ length: 6 }, () => send(null, 'PUT', draft, arrays))),
  'a draft of an author, 15 MB of []': () => send('author', 'PUT', draft, arrays),
  'an SVG of 16,000 paths (10.5 s)': () => bring(svg(shape.repeat(16_000))),
  'an SVG of 60,000 paths (38 to 120 s)': () => bring(svg(shape.repeat(60_000))),
  'an SVG nested 3,000 deep (5 to 12 s)': () => bring(svg('<g>'.repeat(3_000) + '</g>'.repeat(3_000))),
  'a font that says it opens to 2 GB (19 s)': () => bring(font),
};
const longest = async () => ((await (await fetch(`${app}/healthz`)).json()) as { longestWait: number }).longestWait;
await preview(50);
for (const [name, attack] of Object.entries(ATTACKS)) {
  await longest();
  const began = Date.now();
  await attack();
  console.log(`  ${name}: answered after ${((Date.now() - began) / 1000).toFixed(1)} s`);
  figure('others waited at most', await longest(), 'ms', { atMost: 200 });
}
figure('memory of the server afterwards', stack.memory('server'), 'MB', { atMost: 500 });
await flood();
for (const child of stack.running.values()) await tools.endProcess(child);
await stack.close();
finish();
process.exit();

/** 100,000 made-up addresses asked of an edge: what they add to the database, and how much later a release is out meanwhile. */
async function flood(): Promise<void> {
  world.now = instant(Date.now());
  const { id: first } = await world.press([world.put(page, 'now')]);
  await publishReleases(world.publisher, world.one, [first as never]);
  await stack.start('worker', 'edge');
  await tools.until(async () => (await visit('one.example', '/own')).status === 200, 'edge', 60_000);
  const size = async () => {
    const { rows } = (await world.database.raw("SELECT pg_total_relation_size('visit_day')::int AS n")) as {
      rows: [{ n: number }];
    };
    return rows[0].n;
  };
  const quiet: number[] = [];
  const flooded: number[] = [];
  for (let n = 0; n < 10; n++) quiet.push(await release(page, `Quiet ${n}`));
  const before = await size();
  const agent = new Agent({ keepAlive: true, maxSockets: 64 });
  let asked = 0;
  const began = performance.now();
  const flooding = Promise.all(
    Array.from({ length: 64 }, async () => {
      while (asked < 100_000) {
        const path = `/made-up-${asked++}`;
        const headers = { Host: `one.example.localhost:${PORTS.edge}` };
        await new Promise((done) =>
          get({ agent, host: '127.0.0.1', port: PORTS.edge, path, headers }, (response) =>
            response.resume().on('end', done),
          ).on('error', done),
        );
      }
    }),
  );
  while (asked < 100_000 && flooded.length < 10) flooded.push(await release(page, `Flooded ${flooded.length}`));
  await flooding;
  agent.destroy();
  console.log(`  100,000 made-up addresses in ${((performance.now() - began) / 1000).toFixed(1)} s`);
  // Until the last counts are there.
  await new Promise((done) => setTimeout(done, 10_000));
  figure('they add to the database', ((await size()) - before) / 1e6, 'MB', { atMost: 1 });
  figure('press to seen in quiet, median', median(quiet), 'ms');
  figure('in the flood, median of as many as it lasted', median(flooded), 'ms', { atMost: median(quiet) + 1_000 });
}

/** Presses a change of a page and gives how long it took until visitors saw it. */
async function release(pageId: PageId, words: string): Promise<number> {
  world.now = instant(Date.now());
  await world.rewrite(pageId, words);
  const began = performance.now();
  await world.press([world.put(pageId, 'now')]);
  while (!(await visit('one.example', '/own')).body.includes(`${words}<`))
    await new Promise((done) => setTimeout(done, 5));
  return performance.now() - began;
}
