import type { PageId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import { publishPlans, verifyPortfolio } from '@domatium/server';
import { fillLarge, LARGE } from '@domatium/replay';
import { figure, finish } from './print.js';
import { Stack } from './stack.js';

/** (h) Verifying a portfolio of 10,000 published pages on 300 domains, 60,000 periods, with an edge that is asked. */
const size = { ...LARGE, pages: Number(process.env['BENCH_PAGES'] ?? LARGE.pages), days: 1 };
const AT_ONCE = 2_000;
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
console.log(`(h) verifying ${size.pages.toLocaleString('en')} pages`);
await fillLarge(world.database, world.one, size);
const ids = (await world.database('page').where({ portfolio_id: 1 }).orderBy('id').select('id')) as { id: PageId }[];
for (let from = 0; from < ids.length; from += AT_ONCE)
  await publishPlans(
    world.publisher,
    world.one,
    ids.slice(from, from + AT_ONCE).map(({ id }) => id),
  );
await stack.start('edge');
const parts = {
  database: world.database,
  style: world.publisher.style,
  clock: () => instant(Date.now()),
  patience: 60_000,
};
const began = performance.now();
const { checked, differences } = await verifyPortfolio(parts, world.one);
figure('seconds', (performance.now() - began) / 1000, 's', { atMost: 30 });
figure('claims, routes, places held against each other', checked.claims + checked.routes + checked.places, '');
figure('answers of the edge', checked.answers, '', { atLeast: 1 });
figure('differences', differences.length, '', { atMost: 0 });
for (const { kind, address, words } of differences.slice(0, 5)) console.error(`  ${kind} ${address}: ${words}`);
await stack.close();
finish();
process.exit();
