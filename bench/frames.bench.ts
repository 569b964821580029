import { randomBytes } from 'node:crypto';
import { newBlock } from '@domatium/core/document';
import { instant, type Instant } from '@domatium/core/time';
import { fillLarge, LARGE } from '@domatium/replay';
import { publishLarge } from '../replay/src/large.js';
import { newStock, saveStock } from '../server/src/features/stock/service.js';
import { stockItem } from '../server/src/features/stock/views.js';
import { figure, finish, median, percentile } from './print.js';
import { PORTS, Stack, tools, visit } from './stack.js';

/** (k) One footer around all pages of 300 domains: press to the first new answer, until it is out on all, and its disk. */
// Visits are no part of it.
const size = { ...LARGE, days: 1, pages: Number(process.env['BENCH_PAGES'] ?? LARGE.pages) };
const FLIPS = Number(process.env['BENCH_FLIPS'] ?? 20);
const stack = await Stack.open();
const { world } = stack;
const { database } = world;
world.now = instant(Date.now());
console.log(`(k) a footer for ${size.pages.toLocaleString('en')} pages on ${size.hosts} domains`);
await fillLarge(database, world.one, size);
const began = performance.now();
await publishLarge(world.publisher, world.one, () => undefined);
figure('first publication of all pages', (performance.now() - began) / 1000, 's');

const footer = (words: string) => ({
  layout: 'row',
  blocks: [newBlock('legalLine', 'legal1', { words })],
});
const context = () => ({ ...world.context(), now: instant(Date.now()) });
const { id: foot } = await newStock(context(), world.one, { kind: 'footer', name: 'Foot', content: footer('Foot 0') });
const { id: everywhere } = await newStock(context(), world.one, {
  ...{ kind: 'standing', name: 'All sites' },
  content: { header: null, footer: foot, bands: null, isLocked: false },
});
await stack.start('server', 'worker', 'edge');
// Ten thousand drafts that came this minute are checked first: that is no part of it.
const isChecking = async () =>
  (await database('draft').whereRaw('checked_version <> version').first('page_id')) !== undefined;
await tools.until(async () => !(await isChecking()), 'all drafts checked', 300_000);
const session = await stack.signIn();
async function send(path: string, body: object): Promise<number> {
  const response = await fetch(`http://localhost:${PORTS.app}/api/portfolios/1/releases${path}`, {
    method: 'POST',
    headers: session,
    body: JSON.stringify({ ...body, idempotencyKey: randomBytes(8).toString('hex') }),
  });
  if (!response.ok) throw new Error(await response.text());
  return ((await response.json()) as { id: number }).id;
}
const put = (...items: number[]) =>
  send('', { changes: [], stock: items.map((itemId) => ({ act: 'put', itemId, from: 'now', until: null })) });
/** When it was decided, and when every edge served it everywhere. */
async function isOut(id: number): Promise<number> {
  const read = async () =>
    (await database('release').where({ id }).first('at', 'out_at')) as { at: Instant; out_at: Instant | null };
  await tools.until(async () => (await read()).out_at !== null, 'out', 60_000);
  const { at, out_at } = await read();
  return (out_at ?? 0) - at;
}
const rows = (await database.raw(
  "SELECT h.name, r.path FROM route r JOIN host h ON h.id = r.host_id WHERE r.layer = 'page' AND r.from_at <= now() AND coalesce(r.until_at, 'infinity') > now() + interval '1 hour' ORDER BY r.id LIMIT 1",
)) as { rows: { name: string; path: string }[] };
const [seen] = rows.rows;
if (!seen) throw new Error('No page is live');
await isOut(await put(foot, everywhere));
const bytes = async () =>
  Number(
    (
      (await database.raw(
        "SELECT pg_total_relation_size('part') + pg_total_relation_size('frame_place') + pg_total_relation_size('frame_line') + pg_total_relation_size('frame_stretch') + pg_total_relation_size('frame_before') + pg_total_relation_size('framed_page') + pg_total_relation_size('stock_revision') AS bytes",
      )) as { rows: { bytes: string }[] }
    ).rows[0]?.bytes,
  );
const counts = async () =>
  Promise.all(
    ['render', 'route'].map(async (table) =>
      Number(((await database(table).count('* as n').first()) as { n: string }).n),
    ),
  );
const [before, disk] = [await counts(), await bytes()];
const waits: number[] = [];
const outs: number[] = [];
const undone: number[] = [];
async function flip(words: string, press: () => Promise<number>, into: number[]): Promise<number> {
  const start = performance.now();
  const id = await press();
  if (process.env['BENCH_LOUD']) console.log('    pressed', performance.now() - start);
  while (!(await visit(seen?.name ?? '', seen?.path ?? '')).body.includes(words))
    await new Promise((later) => setTimeout(later, 5));
  into.push(performance.now() - start);
  outs.push(await isOut(id));
  if (process.env['BENCH_LOUD']) console.log('    seen', into.at(-1), 'out', outs.at(-1));
  return id;
}
/** Processes that just began run slower code: what their first footers take is said apart. */
const FIRST = 3;
const cold: number[] = [];
for (let n = 1; n <= FIRST + FLIPS; n++) {
  const [pressed, takenBack] = n <= FIRST ? [cold, cold] : [waits, undone];
  const { draftVersion: version, name } = await stockItem(context(), world.one, foot);
  await saveStock(context(), world.one, foot, { version, name, content: footer(`Foot ${n}`) });
  const id = await flip(`Foot ${n}<`, () => put(foot), pressed);
  await flip(`Foot ${n - 1}<`, () => send(`/${id}/undo`, { leavesRedirect: true }), takenBack);
  await flip(`Foot ${n}<`, () => put(foot), pressed);
}
figure(`the slowest of the first ${FIRST} footers after a start`, Math.max(...cold), 'ms');
figure('press to first new answer, median', median(waits), 'ms');
figure('press to first new answer, p95', percentile(waits, 0.95), 'ms', { atMost: 300 });
figure('its undo, p95', percentile(undone, 0.95), 'ms', { atMost: 300 });
figure('decided until out on all domains, p95', percentile(outs, 0.95), 'ms', { atMost: 1000 });
const after = await counts();
figure('pages rendered for it', (after[0] ?? 0) - (before[0] ?? 0), '', { atMost: 0 });
figure('routes of pages written for it', (after[1] ?? 0) - (before[1] ?? 0), '', { atMost: 0 });
figure(`disk for ${FIRST + FLIPS} footers`, ((await bytes()) - disk) / 2 ** 20, 'MB', { atMost: 2 });
figure('memory of the edge', stack.memory('edge'), 'MB');
await stack.close();
finish();
process.exit();
