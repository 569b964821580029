import { Agent, request } from 'node:http';
import { newBlock } from '@domatium/core/document';
import { instant, MINUTE } from '@domatium/core/time';
import { fillLarge, LARGE } from '@domatium/replay';
import { publishLarge } from '../replay/src/large.js';
import { newStock } from '../server/src/features/stock/service.js';
import { release } from '../server/src/heart/releases/index.js';
import { preview } from '../server/src/heart/releases/preview.js';
import { figure, finish, median, percentile } from './print.js';
import { PORTS, Stack, tools, visit } from './stack.js';

/** (l) A planned notice band on all sites, with server, worker and database killed, while visitors ask 2,000 times a second. */
const size = { ...LARGE, days: 1, pages: Number(process.env['BENCH_PAGES'] ?? 2000) };
const RATE = 2000;
const WARMING = 5_000;
/** Sites on which the flip is waited for. */
const SEEN = 4;
const stack = await Stack.open();
const { world } = stack;
const { database } = world;
world.now = instant(Date.now());
console.log(`(l) a notice band for ${size.pages.toLocaleString('en')} pages on ${size.hosts} domains`);
await fillLarge(database, world.one, size);
await publishLarge(world.publisher, world.one, () => undefined);
await stack.start('worker', 'edge');
const context = () => ({ ...world.context(), now: instant(Date.now()) });
const words = 'Storm until noon';
const content = { layout: 'urgent', blocks: [newBlock('legalLine', 'legal1', { words })], sites: 'all' };
const { id: band } = await newStock(context(), world.one, { kind: 'band', name: 'Storm', content });
const at = Math.ceil((Date.now() + 65_000) / MINUTE) * MINUTE;
const stock = [{ act: 'put' as const, itemId: band, from: world.wall(at), until: world.wall(at + 60 * MINUTE) }];
const looked = performance.now();
await preview(context(), world.one, { changes: [], stock });
figure('preview of the change', performance.now() - looked, 'ms', { atMost: 1000 });
await release(context(), world.one, { changes: [], stock, idempotencyKey: 'band' });
const isOpen = async () => (await database('release').whereNull('out_at').select('id')).length > 0;
await tools.until(async () => !(await isOpen()), 'all out', 40_000);
const { rows: pages } = (await database.raw(
  "SELECT DISTINCT ON (h.id) h.name, r.path FROM route r JOIN host h ON h.id = r.host_id WHERE r.layer = 'page' AND r.from_at <= now() AND coalesce(r.until_at, 'infinity') > now() + interval '1 hour' ORDER BY h.id, r.id",
)) as { rows: { name: string; path: string }[] };
if (pages.length < SEEN) throw new Error('Too few pages are live');
await database.destroy();
await stack.kill('worker');
tools.stopPostgres(stack.cluster, 'immediate');

/** Asks for pages one after the other at a rate, whatever comes back when: how long each answer took, and what went wrong. */
class Visitors {
  readonly waits: number[] = [];
  errors = 0;
  private readonly agent = new Agent({ keepAlive: true, maxSockets: 64 });
  private sent = 0;
  private isOver = false;
  private readonly began = performance.now();
  private readonly timer = setInterval(() => this.send(), 5);

  private send(): void {
    const due = ((performance.now() - this.began) / 1000) * RATE;
    for (; this.sent < due; this.sent++) {
      const { name, path } = pages[this.sent % pages.length] ?? { name: '', path: '' };
      const asked = performance.now();
      const headers = { Host: `${name}.localhost:${PORTS.edge}`, 'Accept-Encoding': 'br' };
      request({ agent: this.agent, host: '127.0.0.1', port: PORTS.edge, path, headers }, (response) => {
        response.resume().on('end', () => this.waits.push(performance.now() - asked));
        if (response.statusCode !== 200) this.errors++;
      })
        .on('error', () => (this.errors += this.isOver ? 0 : 1))
        .end();
    }
  }
  stop(): void {
    this.isOver = true;
    clearInterval(this.timer);
    this.agent.destroy();
  }
}
/** Visitors for so long, once they have come. */
const during = async (milliseconds: number) => {
  const visitors = new Visitors();
  await new Promise((later) => setTimeout(later, WARMING));
  visitors.waits.length = 0;
  await new Promise((later) => setTimeout(later, milliseconds));
  visitors.stop();
  return visitors;
};
/** By how much the wall clock, which edges go by, leads that of answers: it may have been set since this process began. */
const lead = () =>
  Math.max(...Array.from({ length: 2_000 }, () => Date.now() - performance.timeOrigin - performance.now()));
/** How closely is looked around the flip: asked for each of these sites, again and again. */
const LOOKED = 100;
let looks = 0;
const seen: number[] = [];
async function look(from: number, until: (pending: ReadonlyMap<number, unknown>) => boolean): Promise<void> {
  await new Promise((later) => setTimeout(later, from - Date.now()));
  const pending = new Map(pages.slice(0, SEEN).map((page, n) => [n, page]));
  while (pending.size && until(pending)) {
    await new Promise((later) => setTimeout(later, 4));
    await Promise.all(
      [...pending].map(async ([n, { name, path }]) => {
        const got = await visit(name, path);
        looks++;
        if (!got.body.includes(words)) return;
        pending.delete(n);
        seen.push(got.answered - at);
      }),
    );
  }
}
// Looking is a load of its own: before the flip there is the same.
const middle = Date.now() + WARMING + 1_000;
const [idle] = await Promise.all([during(4_000), look(middle - LOOKED, () => Date.now() < middle + 20)]);
const looksBefore = looks;
// What an edge makes ahead is no part of what it is measured against.
if (Date.now() > at - 21_000) throw new Error('Too late for the flip');
await new Promise((later) => setTimeout(later, at - 1_000 - WARMING - Date.now()));
const flipped = look(at - LOOKED, () => Date.now() < at + 3_000);
const flip = await during(4_000);
await flipped;
const led = lead();
const early = seen.filter((after) => after + led < 0).length;
figure('wall clock against that of answers', led, 'ms');
figure('looks before', looksBefore, '');
figure('looks while it comes', looks - looksBefore, '');
figure('sites seen to flip', seen.length, `of ${SEEN}`, { atLeast: SEEN });
figure('seen before its instant', early, '', { atMost: 0 });
figure('latest, instant to first new answer', Math.max(...seen) + led, 'ms', { atMost: 50 });
const sent = Math.round(flip.waits.length / 4);
figure('answers a second meanwhile', sent, '', { atLeast: RATE * 0.9 });
figure('refused or broken', idle.errors + flip.errors, '', { atMost: 0 });
figure('p99 of them, before', percentile(idle.waits, 0.99), 'ms');
figure('p99 of them, while the band comes', percentile(flip.waits, 0.99), 'ms');
figure('against before', percentile(flip.waits, 0.99) / percentile(idle.waits, 0.99), 'times', { atMost: 3 });
const firsts: number[] = [];
const agent = new Agent({ keepAlive: true, maxSockets: 1 });
for (const { name, path } of pages)
  await new Promise<void>((done) => {
    const asked = performance.now();
    const headers = { Host: `${name}.localhost:${PORTS.edge}`, 'Accept-Encoding': 'gzip' };
    request({ agent, host: '127.0.0.1', port: PORTS.edge, path, headers }, (response) =>
      response.resume().on('end', () => done(void firsts.push(performance.now() - asked))),
    ).end();
  });
figure('first composition of a page, asked for until answered, median', median(firsts), 'ms', { atMost: 3 });
figure('memory of the edge', stack.memory('edge'), 'MB');
await stack.close();
finish();
process.exit();
