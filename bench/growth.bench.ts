import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { PageId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import type { VisitLine } from '@domatium/core/traffic';
import { publishReleases } from '@domatium/server';
import { queryOfKnex, Spool } from '@domatium/storage';
import { figure, finish } from './print.js';
import { Stack } from './stack.js';

/** What grows on database and disk: a release of 1,000 pages, and a year of visits at a million a day. */
const PAGES = 1_000;
const ADDRESSES = 10_000;
const HOSTS = 300;
const ANSWERS = 1_000_000;
/** Of a day's answers, those to scanners that ask for what never was, each for something else. */
const MADE_UP = 50_000;
const DAYS = 3;

const stack = await Stack.open();
const { world } = stack;
const { database } = world;
world.now = instant(Date.now());

async function size(): Promise<number> {
  await database.raw('VACUUM FULL');
  const { rows } = (await database.raw('SELECT pg_database_size(current_database())::float8 AS n')) as {
    rows: [{ n: number }];
  };
  return rows[0].n;
}
const onDisk = () => Number(execFileSync('du', ['-sb', world.folder], { encoding: 'utf8' }).split('\t')[0]);

const pages: PageId[] = [];
for (let n = 0; n < PAGES; n++) pages.push(await world.page(`/grown-${n}`));
const before = { database: await size(), disk: onDisk() };
const { id } = await world.press(pages.map((page) => world.put(page, 'now')));
await publishReleases(world.publisher, world.one, [id as never]);
const after = { database: await size(), disk: onDisk() };
console.log(`  a release of ${PAGES.toLocaleString('en')} pages`);
figure('in the database', (after.database - before.database) / 1e6, 'MB');
figure('on the disk', (after.disk - before.disk) / 1e6, 'MB');

/** A day's lines as an edge writes them: most answers to few addresses, each counted in many batches. */
function* linesOf(day: string): Generator<VisitLine> {
  const line = (path: string, count: number, isBot: boolean, madeUp = false): VisitLine => ({
    day,
    portfolioId: 1,
    host: `host-${Number(/\d+/.exec(path)?.[0]) % HOSTS}.example`,
    path,
    outcome: madeUp ? 'not-found' : 'page',
    pageId: null,
    isBot,
    count,
    visitors: [],
  });
  const whole = Array.from({ length: ADDRESSES }, (_, n) => 1 / (n + 1)).reduce((sum, share) => sum + share, 0);
  for (let n = 0; n < ADDRESSES; n++) {
    const answers = Math.max(1, Math.round((ANSWERS - MADE_UP) / (n + 1) / whole));
    yield line(`/page-${n}`, answers, false);
    yield line(`/page-${n}`, 3, true);
  }
  for (let n = 0; n < MADE_UP; n++) yield line(`/wp-${n}-${day}`, 1, true, true);
}

const empty = await size();
const spool = new Spool(join(world.folder, 'growth'), 'edge-growth');
for (let n = 0; n < DAYS; n++) {
  const lines = [...linesOf(`2026-01-0${n + 1}`)];
  for (let first = 0; first < lines.length; first += 10_000) {
    await spool.append(lines.slice(first, first + 10_000));
    await spool.close();
    await spool.ship((work) => database.transaction((trx) => work(queryOfKnex(trx))));
  }
}
const whole = await size();
await database('visit_day').where({ outcome: 'not-found' }).delete();
const pagesADay = ((await size()) - empty) / DAYS;
const madeUpADay = (whole - empty) / DAYS - pagesADay;
console.log(
  `  ${ANSWERS.toLocaleString('en')} answers a day over ${ADDRESSES.toLocaleString('en')} addresses and ${MADE_UP.toLocaleString('en')} made-up ones, ${DAYS} days`,
);
figure('a day, of pages', pagesADay / 1e6, 'MB');
figure('a day, of addresses that don’t exist', madeUpADay / 1e6, 'MB');
// Counts of addresses that don't exist are kept for ninety days, those of pages for ever.
figure('after a year', (pagesADay * 365 + madeUpADay * 90) / 1e9, 'GB');
await stack.close();
finish();
process.exit();
