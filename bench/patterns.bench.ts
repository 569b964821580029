import { instant } from '@domatium/core/time';
import type { FillingView } from '@domatium/contracts';
import { fillLarge, LARGE } from '@domatium/replay';
import { figure, finish, median } from './print.js';
import { PORTS, Stack } from './stack.js';

/** A pattern over a portfolio of 10,000 pages: the first hundred looked at, all of them, and written. */
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
await fillLarge(world.database, world.one, LARGE);
await stack.start('server');
const session = await stack.signIn();
const rows = (await world.database('page').where({ portfolio_id: world.one, deleted_at: null }).select('id')) as {
  id: number;
}[];
const ids = rows.map(({ id }) => id);

async function fill(pageIds: readonly number[], seen: object[] | null, what = 'description'): Promise<FillingView> {
  const response = await fetch(`http://localhost:${PORTS.app}/api/portfolios/1/drafts/filling`, {
    method: 'POST',
    headers: session,
    body: JSON.stringify({ what, pattern: '{page name}: {first paragraph:90|"more"}', over: true, pageIds, seen }),
  });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as FillingView;
}
async function timed<T>(work: () => Promise<T>): Promise<{ ms: number; value: T }> {
  const began = performance.now();
  const value = await work();
  return { ms: performance.now() - began, value };
}

console.log(`a pattern over ${ids.length.toLocaleString('en')} pages`);
await fill(ids.slice(0, 100), null);
const first: number[] = [];
for (let n = 0; n < 9; n++) first.push((await timed(() => fill(ids.slice(100 * n, 100 * n + 100), null))).ms);
figure('the first hundred looked at, median of nine', median(first), 'ms', { atMost: 1000 });
const seen: { pageId: number; version: number }[] = [];
const looked = await timed(async () => {
  for (let at = 0; at < ids.length; at += 2000)
    for (const { pageId, version } of (await fill(ids.slice(at, at + 2000), null)).pages)
      seen.push({ pageId, version });
});
figure('all of them looked at', looked.ms / 1000, 's');
figure('drafts that change', seen.length, 'pages');
const { ms, value } = await timed(() =>
  fill(
    seen.map(({ pageId }) => pageId),
    seen,
  ),
);
if (value.pages.length !== seen.length) throw new Error('Not all were written');
figure('all of them written', ms / 1000, 's', { atMost: 10 });
await stack.close();
finish();
