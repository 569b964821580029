import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  closeSync,
  cpSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readlinkSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import type { PageId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import { PASSWORD } from '../../server/test/process/harness.js';
import { PORTS, Stack, tools, visit } from '../stack.js';

/**
 * Every fault in the midst of every step, again and again for so many minutes: each process killed, stopped and frozen,
 * the database stopped and its connections killed, the disk taken away, full and read-only, the clocks of server and
 * edge wrong; while somebody edits, releases, brings in files and visitors look. An observer writes down what was
 * acknowledged and what visitors saw. Prints a table: how often, how long until all was well again, and what was lost,
 * which must be nothing. With FAULT_AWAY the database is away for so many minutes first, once.
 */
const MINUTES = Number(process.env['FAULT_MINUTES'] ?? 30);
const AWAY = Number(process.env['FAULT_AWAY'] ?? 0);
const PATIENCE = 90_000;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

const stack = await Stack.open();
const { world } = stack;
const now = () => void (world.now = instant(Date.now()));
now();
const pages: PageId[] = [];
for (let n = 0; n < 4; n++) pages.push(await world.page(`/fault-${n}`));
const folder = world.folder;
/** A disk of our own, small enough to be filled: only root may mount one. The data folder leads there. */
const disk = `${folder}.disk`;
const isOwnDisk = process.getuid?.() === 0 && mounts('-t', 'tmpfs', '-o', 'size=600m', 'none', disk);
if (isOwnDisk) {
  cpSync(folder, `${disk}/data`, { recursive: true });
  rmSync(folder, { recursive: true });
  symlinkSync(`${disk}/data`, folder);
}
function mounts(...args: string[]): boolean {
  mkdirSync(disk, { recursive: true });
  return spawnSync('mount', args, { stdio: 'ignore' }).status === 0;
}
await stack.start('server', 'worker', 'edge');

const app = `http://localhost:${PORTS.app}/api`;
let headers: Record<string, string> = {};
async function signIn(): Promise<void> {
  const answer = await fetch(`${app}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'owner@one.example', password: PASSWORD }),
  });
  headers = {
    Cookie: answer.headers.get('set-cookie')?.split(';')[0] ?? '',
    'X-Csrf-Token': ((await answer.json()) as { csrf: string }).csrf,
  };
}
await signIn();
const send = (method: string, path: string, body: object | string | null) =>
  fetch(`${app}/portfolios/1${path}`, {
    method,
    headers: { ...headers, 'Content-Type': typeof body === 'string' ? 'application/octet-stream' : 'application/json' },
    ...(body === null ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    signal: AbortSignal.timeout(20_000),
  });

/** What was acknowledged: the words each page's draft and its newest release must hold, and files that must be there. */
const acknowledged = { drafts: new Map<PageId, string>(), files: new Set<string>(), saves: 0, releases: 0, refused: 0 };
const wrong: string[] = [];
/** Words that were sent after those: kept or not, nobody was told. */
const tried = new Map<PageId, string[]>();

/** One round of work on one page; gives whether everything was acknowledged. */
async function work(pageId: PageId): Promise<boolean> {
  const words = `Words ${randomBytes(6).toString('hex')}`;
  try {
    const draft = (await (await send('GET', `/pages/${pageId}/draft`, null)).json()) as { version: number };
    const document = {
      metadata: { title: words, description: 'D' },
      blocks: [{ id: 'opening1', type: 'opening', fields: { heading: words, text: words } }],
    };
    tried.set(pageId, [...(tried.get(pageId) ?? []), words]);
    const saved = await send('PUT', `/pages/${pageId}/draft`, { version: draft.version, document });
    if (!saved.ok) return refused();
    acknowledged.saves++;
    acknowledged.drafts.set(pageId, words);
    tried.set(pageId, []);
    const file = `%PDF-1.4 ${words} ${'x'.repeat(40_000)}`;
    const brought = await send('POST', `/pictures?name=${encodeURIComponent(words)}.pdf`, file);
    if (brought.ok) acknowledged.files.add(sha256(file));
    const change = { act: 'release', pageId, from: 'now', until: null, afterwards: null, cutsLater: false };
    const released = await send('POST', '/releases', {
      changes: [change],
      idempotencyKey: randomBytes(8).toString('hex'),
    });
    if (!released.ok) return refused();
    acknowledged.releases++;
    return brought.ok;
  } catch {
    return refused();
  }
}
function refused(): boolean {
  acknowledged.refused++;
  return false;
}

/** Whole, of one version, and never nothing once there was something. */
const seen = new Map<number, number>();
let isStopped = false;
async function visitors(): Promise<void> {
  for (let n = 0; !isStopped; n = (n + 1) % pages.length) {
    const got = await visit('one.example', `/fault-${n}`).catch(() => null);
    if (got) {
      seen.set(got.status, (seen.get(got.status) ?? 0) + 1);
      if (got.status === 200 && !got.body.trimEnd().endsWith('</html>')) wrong.push(`a torn page at /fault-${n}`);
      if (got.status === 404 && n in everOut) wrong.push(`/fault-${n} was gone`);
      if (got.status === 200) everOut[n] = true;
    }
    // Planned for later than this run: whoever sees it was taken in by a wrong clock.
    const early = await visit('one.example', '/embargo').catch(() => null);
    if (early?.status === 200) wrong.push('a page was out before its time');
    await sleep(20);
  }
}
const everOut: Record<number, boolean> = {};

const child = (name: string) => stack.running.get(name);
async function again(name: 'server' | 'worker' | 'edge'): Promise<void> {
  await stack.start(name);
  if (name === 'server') await signIn();
}
const processFaults = (['server', 'worker', 'edge'] as const).flatMap((name) => [
  {
    name: `${name} killed`,
    run: async () => {
      await stack.kill(name);
      await sleep(500);
      await again(name);
    },
  },
  {
    name: `${name} ended in order`,
    run: async () => {
      const one = child(name);
      if (one) await tools.endProcess(one);
      stack.running.delete(name);
      await again(name);
    },
  },
  {
    name: `${name} frozen for 6 s`,
    run: async () => {
      child(name)?.kill('SIGSTOP');
      await sleep(6_000);
      child(name)?.kill('SIGCONT');
    },
  },
]);
const database = async (away: number, mode: string) => {
  tools.stopPostgres(stack.cluster, mode);
  await sleep(away);
  tools.startPostgres({ wanted: stack.cluster.folder, port: PORTS.database, isThrowAway: false });
};
const diskFaults = !isOwnDisk
  ? []
  : [
      {
        name: 'disk full for 4 s',
        run: async () => {
          const filler = openSync(`${disk}/filler`, 'w');
          const until = Date.now() + 4_000;
          const bytes = Buffer.alloc(1 << 16);
          while (Date.now() < until)
            try {
              writeSync(filler, bytes);
            } catch {
              await sleep(50);
            }
          closeSync(filler);
          rmSync(`${disk}/filler`);
        },
      },
      {
        name: 'disk read-only for 4 s',
        run: async () => {
          // Refused while a file is open for writing: tried until it takes hold.
          for (let n = 0; n < 400 && !mounts('-o', 'remount,ro', disk); n++) await sleep(10);
          await sleep(4_000);
          mounts('-o', 'remount,rw', disk);
        },
      },
    ];
/** Starts a process whose clock is wrong by so many milliseconds, and gives it the right one again. */
const wrongClock = (name: 'server' | 'worker' | 'edge', by: number) => async () => {
  const one = child(name);
  if (one) await tools.endProcess(one);
  const text = `const d=Date,n=d.now.bind(d);globalThis.Date=class extends d{constructor(...a){super(...(a.length?a:[n()+${by}]))}static now(){return n()+${by}}}`;
  await stack.startWith(name, { NODE_OPTIONS: `--import data:text/javascript,${encodeURIComponent(text)}` });
  if (name === 'server') await signIn();
  await sleep(3_000);
  const wrongly = child(name);
  if (wrongly) await tools.endProcess(wrongly);
  await again(name);
};
const FAULTS: readonly { readonly name: string; readonly isOnce?: boolean; readonly run: () => Promise<void> }[] = [
  ...(AWAY ? [{ name: `database away for ${AWAY} min`, isOnce: true, run: () => awayFor(AWAY) }] : []),
  ...processFaults,
  ...diskFaults,
  { name: 'server’s clock a minute ahead', run: wrongClock('server', 60_000) },
  { name: 'server’s clock a minute behind', run: wrongClock('server', -60_000) },
  { name: 'worker’s clock an hour ahead', run: wrongClock('worker', 3_600_000) },
  { name: 'edge’s clock an hour ahead', run: wrongClock('edge', 3_600_000) },
  { name: 'database stopped for 1 s', run: () => database(1_000, 'fast') },
  { name: 'database killed for 25 s', run: () => database(25_000, 'immediate') },
  {
    name: 'connections killed',
    run: async () => {
      for (let n = 0; n < 3; n++) {
        await world.database
          .raw(
            'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
          )
          .catch(() => undefined);
        await sleep(300);
      }
    },
  },
  {
    name: 'disk away for 4 s',
    run: async () => {
      renameSync(folder, `${folder}.away`);
      writeFileSync(folder, '');
      await sleep(4_000);
      rmSync(folder);
      renameSync(`${folder}.away`, folder);
    },
  },
];

/** While the database is away nothing grows: sockets and memory of each process are told beside those before. */
async function awayFor(minutes: number): Promise<void> {
  const before = sizes();
  tools.stopPostgres(stack.cluster, 'immediate');
  await sleep(5_000);
  const early = sizes();
  await sleep(minutes * 60_000 - 5_000);
  console.log(
    `  sockets and memory before: ${before}; after 5 s away: ${early}; after ${minutes} min away: ${sizes()}`,
  );
  tools.startPostgres({ wanted: stack.cluster.folder, port: PORTS.database, isThrowAway: false });
}

function sizes(): string {
  const told = [...stack.running].map(([name, { pid }]) => {
    const fds = readdirSync(`/proc/${pid}/fd`);
    const sockets = fds.filter((fd) => {
      try {
        return readlinkSync(`/proc/${pid}/fd/${fd}`).startsWith('socket:');
      } catch {
        return false;
      }
    });
    return `${name} ${sockets.length} sockets, ${Math.round(stack.memory(name))} MB`;
  });
  return told.join(', ');
}

/** All is well: a whole round of work is acknowledged, out, and seen. */
async function isWell(): Promise<boolean> {
  now();
  const [pageId] = pages as [PageId];
  if (!(await work(pageId))) return false;
  const words = acknowledged.drafts.get(pageId) ?? '';
  for (let n = 0; n < 40; n++) {
    if ((await visit('one.example', '/fault-0').catch(() => ({ body: '' }))).body.includes(words)) return true;
    await sleep(100);
  }
  return false;
}

const givenUp = new Set<number>();
/** Nothing that was acknowledged is lost. */
async function lost(): Promise<string[]> {
  const missing: string[] = [];
  for (const [pageId, words] of acknowledged.drafts) {
    const [row] = (await world.database('draft').where({ page_id: pageId }).select('document')) as {
      document: { metadata: { title: string } };
    }[];
    const kept = row?.document.metadata.title ?? '';
    if (kept !== words && !tried.get(pageId)?.includes(kept)) missing.push(`a draft of page ${pageId}`);
  }
  for (const hash of acknowledged.files)
    if (!existsSync(world.publisher.blobs.fileOf('files', hash))) missing.push(`the bytes of a file`);
  const failed = (await world.database('release').whereNotNull('failure').select('id')) as { id: number }[];
  const fresh = failed.filter(({ id }) => !givenUp.has(id));
  for (const { id } of fresh) givenUp.add(id);
  return [...missing, ...fresh.map(({ id }) => `release ${id} was given up`)];
}

const embargo = await world.page('/embargo');
await world.press([world.put(embargo, Math.ceil((Date.now() + 50 * 60_000) / 60_000) * 60_000 + AWAY * 60_000)]);
if (!(await isWell())) throw new Error('Nothing works before the first fault');
const looking = visitors();
const rows = new Map<string, { times: number; recoveries: number[]; lost: string[] }>();
const until = Date.now() + (MINUTES + AWAY) * 60_000;
console.log(`faults: ${MINUTES} minutes, ${FAULTS.length} kinds in the midst of work`);
for (let round = 0; Date.now() < until; round++)
  for (const fault of FAULTS) {
    if (Date.now() >= until || (fault.isOnce && round > 0)) continue;
    let isBusy = true;
    const working = pages.map(async (pageId) => {
      while (isBusy) if (!(await work(pageId))) await sleep(200);
    });
    await sleep(Math.random() * 1_500);
    await fault.run();
    const began = Date.now();
    isBusy = false;
    await Promise.all(working);
    let well = false;
    while (!well && Date.now() - began < PATIENCE) if (!(well = await isWell())) await sleep(100);
    const row = rows.get(fault.name) ?? { times: 0, recoveries: [], lost: [] };
    row.times++;
    row.recoveries.push(Date.now() - began);
    row.lost.push(...(await lost()), ...(well ? [] : ['it did not come back']));
    rows.set(fault.name, row);
    if (row.lost.length) console.error(`  ${fault.name}: ${row.lost.join(', ')}`);
  }
isStopped = true;
await looking;
console.log(`  ${'fault'.padEnd(28)} times   well again, median and longest   lost`);
for (const [name, { times, recoveries, lost: what }] of rows) {
  const sorted = [...recoveries].sort((a, b) => a - b);
  const seconds = (ms = 0) => `${(ms / 1000).toFixed(1)} s`;
  console.log(
    `  ${name.padEnd(28)} ${String(times).padStart(5)}   ${seconds(sorted[Math.floor(sorted.length / 2)]).padStart(8)} ${seconds(sorted.at(-1)).padStart(20)}   ${what.length || 'nothing'}`,
  );
}
const answers = [...seen].sort(([a], [b]) => a - b).map(([status, n]) => `${n} × ${status}`);
console.log(
  `  acknowledged: ${acknowledged.saves} saves, ${acknowledged.releases} releases, ${acknowledged.files.size} files; refused: ${acknowledged.refused}`,
);
console.log(
  `  visitors got: ${answers.join(', ')}${wrong.length ? `; WRONG: ${[...new Set(wrong)].join(', ')}` : ', all whole'}`,
);
await stack.close();
if (isOwnDisk) spawnSync('umount', ['-l', disk]);
rmSync(disk, { recursive: true, force: true });
const isLost = wrong.length > 0 || [...rows.values()].some(({ lost: what }) => what.length);
process.exit(isLost ? 1 : 0);
