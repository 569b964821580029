import { request, type IncomingMessage } from 'node:http';
import { readFileSync } from 'node:fs';
import type { PageId } from '@domatium/core/plan';
import { instant, later } from '@domatium/core/time';
import { documentOf, PASSWORD } from '../server/test/process/harness.js';
import { saveDraft } from '@domatium/server';
import { thinStates } from '../server/src/features/drafts/index.js';
import { figure, finish } from './print.js';
import { PORTS, Stack, tools } from './stack.js';

/**
 * What it costs that 30 people have the register open while 5 of them type: a draft is saved every second by each. Once
 * as browsers did until decision 0028 (each asks for the row anew at every event, and whoever saved reads the draft
 * again), once as they do now (what changed is in the event). Bytes and queries are those of half a minute, as a minute.
 */
const PEOPLE = 30;
const TYPING = 5;
const SECONDS = 30;
const GATHERED = 40;

const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
const pages: PageId[] = [];
for (let n = 0; n < TYPING; n++) pages.push(await world.page(`/typed-${n}`));
await stack.start('server', 'worker');
const app = `http://localhost:${PORTS.app}/api`;
const signedIn = await fetch(`${app}/session`, {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({ email: 'owner@one.example', password: PASSWORD }),
});
const headers = {
  Cookie: signedIn.headers.get('set-cookie')?.split(';')[0] ?? '',
  'X-Csrf-Token': ((await signedIn.json()) as { csrf: string }).csrf,
};
let bytes = 0;
async function get(path: string): Promise<string> {
  const text = await (await fetch(`${app}/portfolios/1${path}`, { headers })).text();
  bytes += Buffer.byteLength(text);
  return text;
}

/** A browser that hears events; `asks`: it fetches what they name, gathered as the application did. */
async function browser(asks: boolean): Promise<() => void> {
  const stale = new Set<number>();
  let timer: NodeJS.Timeout | null = null;
  const asked = request(`${app}/portfolios/1/events`, { headers });
  const answer = await new Promise<IncomingMessage>((done, fail) => asked.on('response', done).on('error', fail).end());
  answer.setEncoding('utf8').on('data', (text: string) => {
    bytes += Buffer.byteLength(text);
    if (!asks) return;
    for (const [, ids] of text.matchAll(/event: (?:draft|page)\ndata: .*"pageIds":\[([\d,]+)\]/g))
      for (const id of ids?.split(',') ?? []) stale.add(Number(id));
    if (!stale.size) return;
    timer ??= setTimeout(() => {
      timer = null;
      void get(`/register?pages=${[...stale].join()}`);
      stale.clear();
    }, GATHERED);
  });
  answer.on('error', () => undefined);
  return () => asked.destroy();
}

const versions = new Map(pages.map((id) => [id, 1]));
async function save(id: PageId, asks: boolean): Promise<void> {
  const version = versions.get(id) ?? 1;
  const answer = await fetch(`${app}/portfolios/1/pages/${id}/draft`, {
    method: 'PUT',
    headers: { ...headers, 'Content-Type': 'application/json' },
    body: JSON.stringify({
      version,
      document: documentOf(`Words ${version} of ${id}, ${'and more of them '.repeat(300)}`),
    }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  versions.set(id, version + 1);
  if (asks) await get(`/pages/${id}/draft`);
}

/** Statements that were executed in the database, as its statistics count transactions, and time of the server's processor in seconds. */
async function spent(): Promise<{ transactions: number; cpu: number }> {
  await new Promise((done) => setTimeout(done, 1_500));
  const { rows } = (await world.database.raw(
    'SELECT xact_commit + xact_rollback AS n FROM pg_stat_database WHERE datname = current_database()',
  )) as { rows: [{ n: string }] };
  const stat = readFileSync(`/proc/${stack.running.get('server')?.pid}/stat`, 'utf8').split(' ');
  return { transactions: Number(rows[0].n), cpu: (Number(stat[13]) + Number(stat[14])) / 100 };
}

for (const [name, asks] of [
  ['before', true],
  ['now', false],
] as const) {
  const open = await Promise.all(Array.from({ length: PEOPLE }, () => browser(asks)));
  await new Promise((done) => setTimeout(done, 1_000));
  const began = await spent();
  bytes = 0;
  for (let second = 0; second < SECONDS; second++) {
    const next = new Promise((done) => setTimeout(done, 1_000));
    await Promise.all(pages.map((id) => save(id, asks)));
    await next;
  }
  const ended = await spent();
  for (const close of open) close();
  const minute = 60 / SECONDS;
  console.log(`  ${PEOPLE} people, ${TYPING} typing, ${name}, a minute`);
  figure('bytes to browsers', (bytes * minute) / 1e6, 'MB');
  figure('transactions of the database', (ended.transactions - began.transactions) * minute, '');
  figure('time of the server’s processor', (ended.cpu - began.cpu) * minute, 's');
}
await growth();
for (const child of stack.running.values()) await tools.endProcess(child);
await stack.close();
finish();
process.exit();

/** What an hour of typing leaves in the database: a pause in typing every two seconds, a longer one every minute. */
async function growth(): Promise<void> {
  const tables = ['audit', 'draft_state', 'draft'];
  const size = async () => {
    for (const table of tables) await world.database.raw('VACUUM FULL ??', [table]);
    const { rows } = (await world.database.raw(
      'SELECT sum(pg_total_relation_size(t::regclass))::float8 AS n FROM unnest(?::text[]) AS t',
      [tables],
    )) as { rows: [{ n: number }] };
    return rows[0].n;
  };
  const page = await world.page('/an-hour');
  const before = await size();
  const words = Array.from({ length: 3_000 }, (_, n) => `word${(n * 7919) % 3_001}`).join(' ');
  for (let second = 0, version = 1; second < 3_600; second += 2, version++) {
    world.now = later(world.now, second % 60 === 58 ? 60_000 : 2_000);
    await saveDraft(world.context(), world.one, page, version, documentOf(`${words} ${version}`));
  }
  const [typed, kept] = [
    await size(),
    (await thinStates(world.database, later(world.now, 2 * 3_600_000)), await size()),
  ];
  const documents = 1_800;
  console.log(
    `  an hour of typing in a page of ${(words.length / 1024).toFixed(0)} KB, ${documents.toLocaleString('en')} saves`,
  );
  figure('in the database at its end', (typed - before) / 1e6, 'MB');
  figure('two hours later', (kept - before) / 1e6, 'MB', { atMost: (typed - before) / 1e6 / 5 });
}
