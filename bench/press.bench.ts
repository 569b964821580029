import { randomBytes } from 'node:crypto';
import type { ReleaseChange } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import { instant, MINUTE } from '@domatium/core/time';
import { publishReleases } from '@domatium/server';
import { figure, finish, median, percentile } from './print.js';
import { PORTS, Stack, tools, visit } from './stack.js';

/** (c) Press to first new answer beside 100,000 other claims. (d) 200 planned flips with all but the edge killed. */
const HOSTS = 300;
const LARGEST = 2_000;
const CLAIMS = 100_000;
const RELEASES = 50;
const FLIPS = 200;

const stack = await Stack.open();
const { world } = stack;
const { database } = world;
world.now = instant(Date.now());

console.log(`  making ${CLAIMS.toLocaleString('en')} claims on ${HOSTS} hosts`);
const own: PageId[] = [];
for (let n = 0; n < 10; n++) own.push(await world.page(`/own-${n}`));
const { id: first } = await world.press(own.map((page) => world.put(page, 'now')));
await publishReleases(world.publisher, world.one, [first as never]);
await fill();
await stack.start('server', 'worker', 'edge');
await tools.until(
  async () =>
    (await visit('one.example', '/own-0')).status === 200 &&
    (await visit('host-299.example', '/page-5')).status === 200,
  'edge',
  60_000,
);

const session = await stack.signIn();

async function press(changes: readonly ReleaseChange[]): Promise<void> {
  const response = await fetch(`http://localhost:${PORTS.app}/api/portfolios/1/releases`, {
    method: 'POST',
    headers: session,
    body: JSON.stringify({ changes, idempotencyKey: randomBytes(8).toString('hex') }),
  });
  if (!response.ok) throw new Error(await response.text());
}

console.log('(c) press to first new answer, 50 releases of one page');
const waits: number[] = [];
for (let n = 0; n < RELEASES; n++) {
  const index = n % own.length;
  world.now = instant(Date.now());
  await world.rewrite(own[index] as PageId, `Words of release ${n}`);
  const began = performance.now();
  await press([world.put(own[index] as PageId, 'now')]);
  while (!(await visit('one.example', `/own-${index}`)).body.includes(`Words of release ${n}<`))
    await new Promise((later) => setTimeout(later, 5));
  waits.push(performance.now() - began);
}
figure('median', median(waits), 'ms');
figure('p95', percentile(waits, 0.95), 'ms', { atMost: 1000 });
for (const name of stack.running.keys()) figure(`memory of ${name} with 100,000 claims`, stack.memory(name), 'MB');

console.log('(d) 200 planned flips over four whole minutes, with server, worker and database killed');
const flipping: { page: PageId; path: string; at: number }[] = [];
for (let n = 0; n < FLIPS; n++) flipping.push({ page: await world.page(`/flip-${n}`), path: `/flip-${n}`, at: 0 });
await press(flipping.slice(0, 100).map(({ page }) => world.put(page, 'now')));
await press(flipping.slice(100).map(({ page }) => world.put(page, 'now')));
for (const [n, { page }] of flipping.entries()) await world.rewrite(page, `Flipped ${n}`);
const start = Math.ceil((Date.now() + 45_000) / MINUTE) * MINUTE;
flipping.forEach((flip, n) => (flip.at = start + (n % 4) * MINUTE));
for (let minute = 0; minute < 4; minute++)
  await press(flipping.filter((_, n) => n % 4 === minute).map(({ page, at }) => world.put(page, at)));
await tools.until(
  async () =>
    Number(((await database('release').whereNull('out_at').count('* as n').first()) as { n: number }).n) === 0,
  'all out',
  40_000,
);
await database.destroy();
await stack.kill('server');
await stack.kill('worker');
tools.stopPostgres(stack.cluster, 'immediate');
if (Date.now() > start - 2000) throw new Error('Too late for the first flip');
const late: number[] = [];
let early = 0;
for (let minute = 0; minute < 4; minute++) {
  const pending = new Map(flipping.flatMap((flip, n) => (n % 4 === minute ? [[n, flip] as const] : [])));
  const at = start + minute * MINUTE;
  await new Promise((later) => setTimeout(later, at - 150 - Date.now()));
  while (pending.size && Date.now() < at + 2000)
    await Promise.all(
      [...pending].map(async ([n, { path }]) => {
        const got = await visit('one.example', path);
        if (!got.body.includes(`Flipped ${n}<`)) return;
        pending.delete(n);
        late.push(got.answered - at);
        if (got.answered < at) early++;
      }),
    );
  if (pending.size) throw new Error(`${pending.size} pages did not flip`);
}
figure('flips seen', late.length, 'of 200', { atLeast: FLIPS });
figure('flips seen before their instant', early, '', { atMost: 0 });
figure('median, instant to first new answer', median(late), 'ms');
figure('latest', Math.max(...late), 'ms', { atMost: 50 });
await stack.close();
finish();
process.exit();

/** The other claims, written directly: what they hold does not matter here, how many there are does. */
async function fill(): Promise<void> {
  const [{ artifact } = { artifact: '' }] = (await database('route').whereNotNull('artifact').limit(1)) as {
    artifact: string;
  }[];
  await database.transaction(async (trx) => {
    await trx.raw("SELECT set_config('domatium.instant', '2000-01-01', true)");
    const many = `SELECT h.n AS host, p.n AS page, 1000000 + h.n * 10000 + p.n AS id FROM generate_series(0, ${HOSTS - 1}) h(n) CROSS JOIN LATERAL generate_series(1, CASE WHEN h.n = 0 THEN ${LARGEST} ELSE ${Math.ceil((CLAIMS - LARGEST) / (HOSTS - 1))} END) p(n)`;
    const since = "'2026-01-01'::timestamptz";
    for (const sql of [
      `INSERT INTO domain (id, portfolio_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 'host-' || n || '.example' FROM generate_series(0, ${HOSTS - 1}) n`,
      `INSERT INTO host (id, portfolio_id, domain_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 1000 + n, 'host-' || n || '.example' FROM generate_series(0, ${HOSTS - 1}) n`,
      `INSERT INTO site (id, portfolio_id, name, brand, theme) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 'Site ' || n, 'Site', 'ferry' FROM generate_series(0, ${HOSTS - 1}) n`,
      `INSERT INTO site_address (id, portfolio_id, site_id, host_id, is_primary, from_at) SELECT 500000 + n, 1, 1000 + n, 1000 + n, true, ${since} FROM generate_series(0, ${HOSTS - 1}) n`,
      `INSERT INTO page (id, portfolio_id, name, created_at, changed_at) OVERRIDING SYSTEM VALUE SELECT id, 1, 'Page ' || id, ${since}, ${since} FROM (${many}) m`,
      `INSERT INTO revision (id, portfolio_id, page_id, number, document, created_at) OVERRIDING SYSTEM VALUE SELECT id, 1, id, 1, '{"metadata":{"title":"t","description":""},"blocks":[]}', ${since} FROM (${many}) m`,
      `INSERT INTO placement (id, portfolio_id, page_id, site_id, path, from_at) SELECT 10000000 + id, 1, id, 1000 + host, '/page-' || page, ${since} FROM (${many}) m`,
      `INSERT INTO period (id, portfolio_id, page_id, revision_id, from_at, until_at) SELECT 20000000 + id, 1, id, id, ${since}, CASE WHEN page % 3 = 0 THEN '2027-06-01'::timestamptz END FROM (${many}) m`,
      `INSERT INTO address (id, host_id, path) OVERRIDING SYSTEM VALUE SELECT id, 1000 + host, '/page-' || page FROM (${many}) m`,
      `INSERT INTO claim (id, portfolio_id, address_id, layer, page_id, revision_id, source_id, from_at, until_at) OVERRIDING SYSTEM VALUE SELECT id, 1, id, 'page', id, id, 20000000 + id, ${since}, CASE WHEN page % 3 = 0 THEN '2027-06-01'::timestamptz END FROM (${many}) m`,
      `INSERT INTO route (id, portfolio_id, host_id, path, layer, from_at, until_at, answer, page_id, revision_id, claim_id, artifact) OVERRIDING SYSTEM VALUE SELECT id, 1, 1000 + host, '/page-' || page, 'page', ${since}, CASE WHEN page % 3 = 0 THEN '2027-06-01'::timestamptz END, 'page', id, id, 20000000 + id, '${artifact}' FROM (${many}) m`,
      `INSERT INTO page_route (page_id, host_id, path, from_at) SELECT id, 1000 + host, '/page-' || page, ${since} FROM (${many}) m`,
    ])
      await trx.raw(sql);
    // The host that is pressed on is the largest one.
    await trx.raw('UPDATE route SET host_id = 1 WHERE host_id = 1000');
    await trx.raw('UPDATE page_route SET host_id = 1 WHERE host_id = 1000');
  });
  await database.raw('ANALYZE');
}
