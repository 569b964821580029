import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PageId } from '@domatium/core/plan';
import { DAY, dayOf, later, MINUTE } from '@domatium/core/time';
import { brotliCompressSync, constants } from 'node:zlib';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { evidence } from '../../src/features/retirement/service.js';
import { weight } from '../../src/features/speed/service.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());

const weigh = (pageId: PageId) => weight(world.context(), world.publisher.blobs, world.one, pageId);
const says = async (pageId: PageId) =>
  (await evidence(world.context(), world.one, pageId)).map(({ speaksFor, words }) => `${speaksFor}: ${words}`);
const live = async (path: string, links: PageId[] = []) => {
  const id = await world.page(path, { links });
  const { id: release } = await world.press([world.put(id, 'now')]);
  await publishReleases(world.publisher, world.one, [release as never]);
  world.now = later(world.now, MINUTE);
  return id;
};
const counted = (pageId: PageId | null, path: string, daysAgo: number, outcome: string, n: number) =>
  world.database('visit_day').insert({
    portfolio_id: world.one,
    day: dayOf(later(world.now, -daysAgo * DAY), 'Europe/Oslo'),
    host: 'one.example',
    path,
    outcome,
    page_id: pageId,
    is_bot: false,
    answers: n,
    visits: outcome === 'page' ? n : 0,
  });

describe('weight', () => {
  it('is of the bytes that are sent: the compressed page and the files it names', async () => {
    const id = await live('/weighed');
    const view = await weigh(id);
    const html = await world.served(id);
    expect(view?.weight.page).toBe(
      brotliCompressSync(html, { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } }).length,
    );
    const sizes = await Promise.all(
      [...html.matchAll(/\/-\/([0-9a-f]{64})\.woff2/g)].map(
        async ([, hash = '']) => (await world.publisher.blobs.read('files', hash))?.length ?? 0,
      ),
    );
    expect(view?.weight.fonts).toBe(sizes.reduce((sum, size) => sum + size, 0));
    expect(view?.weight.fonts).toBeGreaterThan(1000);
    expect(view?.total).toBe(Object.values(view?.weight ?? {}).reduce((sum, part) => sum + part, 0));
  });
  it('is of nothing before a page is live and after it is off', async () => {
    const id = await world.page('/unweighed');
    expect(await weigh(id)).toBeNull();
  });
});

describe('evidence', () => {
  it('follows visits, links and what the address gives', async () => {
    const id = await live('/needed');
    expect(await says(id)).toEqual(['taking-off: Live with no end planned, and no live page links here']);
    await counted(id, '/needed', 3, 'page', 12);
    await live('/needs', [id]);
    expect(await says(id)).toEqual(['keeping: 12 visits in the last 30 days', 'keeping: 1 live page links here']);
    await world.press([{ act: 'take-off', pageId: id, from: 'now', until: null, afterwards: { kind: 'gone' } }]);
    world.now = later(world.now, MINUTE);
    await counted(id, '/needed', 2, 'gone', 7);
    await counted(null, '/needed', 45, 'not-found', 100);
    expect(await says(id)).toEqual([
      'mending: 1 live page still links here, and visitors get nothing',
      'mending: Asked for 7 times in the last 30 days, with nothing to show: send visitors somewhere',
    ]);
  });
  it('counts days without a visit on the days there are figures for', async () => {
    const id = await live('/quiet');
    world.now = later(world.now, 100 * DAY);
    expect((await says(id))[0]).toBe('taking-off: No visit for 100 days, while it was live');
    await counted(id, '/quiet', 95, 'page', 1);
    expect((await says(id))[0]).toMatch(/^taking-off: No visit for 9[45] days/);
  });
});
