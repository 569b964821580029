import { Judgement } from '@domatium/core/judgement';
import type { ReleaseChange } from '@domatium/contracts';
import { later, MINUTE, instant } from '@domatium/core/time';
import { fillLarge, LARGE } from '@domatium/replay';
import { Judge } from '../server/src/features/fixing/index.js';
import { groundAt, judgedPages, type Sights } from '../server/src/features/fixing/judged-pages.js';
import { toFix } from '../server/src/features/fixing/service.js';
import { draft, saveDraft } from '../server/src/features/drafts/service.js';
import { figure, finish, median } from './print.js';
import { Stack } from './stack.js';

/** A portfolio of 10,000 pages judged as a whole, after a change of one page, and for a moment that comes. */
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
await fillLarge(world.database, world.one, LARGE);
const zone = 'Europe/Oslo';

async function timed<T>(work: () => Promise<T> | T): Promise<{ ms: number; value: T }> {
  const began = performance.now();
  const value = await work();
  return { ms: performance.now() - began, value };
}

const sights: Sights = new Map();
const ground = await groundAt(world.database, world.one, { at: world.now, zone });
const { ms: read, value: pages } = await timed(() => judgedPages(world.database, world.one, ground, sights));
console.log(`a judgement of ${pages.length.toLocaleString('en')} pages that are live or will be`);
figure('all of them read, each text looked through', read / 1000, 's');
const judgement = new Judgement();
const near = await timed(() => {
  judgement.fill(pages);
  for (const { id } of pages) judgement.findingsOf(id, { at: world.now, sizeOf: () => undefined, write: () => '' });
});
figure('titles, descriptions and texts that are nearly the same', near.ms / 1000, 's', { atMost: 10 });

const judge = new Judge(world.database);
const whole = await timed(() => judge.judge(world.one, world.now));
figure('whole judgement, from nothing, all of it written', whole.ms / 1000, 's', { atMost: 60 });
figure('pages with something found', whole.value.written, 'pages');
const idle: number[] = [];
for (let n = 0; n < 5; n++) idle.push((await timed(() => judge.judge(world.one, world.now))).ms);
figure('where nothing changed, median of five', median(idle), 'ms');
const changed: number[] = [];
for (let n = 0; n < 9; n++) {
  const { id } = pages[n * 100] as (typeof pages)[number];
  const { version, document } = await draft(world.context(), world.one, id);
  const title = pages[n * 100 + 50]?.sight.document.metadata.title ?? '';
  await saveDraft(world.context(), world.one, id, version, { ...document, metadata: { ...document.metadata, title } });
  await world.press([{ ...world.put(id, 'now'), cutsLater: true } as ReleaseChange]);
  world.now = later(world.now, MINUTE);
  const one = await timed(() => judge.judge(world.one, world.now));
  if (one.value.written < 1) throw new Error('Nothing was found where something changed');
  changed.push(one.ms);
}
figure('after a change of one page, median of nine', median(changed), 'ms', { atMost: 300 });
const then = await timed(() => toFix(world.context(), world.one, later(world.now, 30 * 24 * 60 * MINUTE)));
figure('all checks over all pages, for a moment in 30 days', then.ms / 1000, 's');
await stack.close();
finish();
