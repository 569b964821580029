import { request } from 'node:http';
import { gzipSync } from 'node:zlib';
import { instant } from '@domatium/core/time';
import { PASSWORD } from '../server/test/process/harness.js';
import { figure, finish } from './print.js';
import { PORTS, Stack, tools } from './stack.js';

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
await tools.endProcess(stack.running.get('server') as never);
await stack.close();
finish();
process.exit();
