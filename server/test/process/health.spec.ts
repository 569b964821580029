import { tmpdir } from 'node:os';
import { afterEach, describe, expect, it } from '@jest/globals';
import { BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import type { EventHub } from '../../src/index.js';
import { Health } from '../../src/platform/http/health.js';
import { Refused } from '../../src/platform/errors.js';

const opened: Health[] = [];
afterEach(() => {
  for (const one of opened.splice(0)) one.stop();
});

/** Health over a database whose clock is ahead of ours, and a disk. */
async function healthWith(ahead: number | null, folder = tmpdir()): Promise<Health> {
  const raw = (sql: string) =>
    ahead === null
      ? Promise.reject(new Error('away'))
      : Promise.resolve({ rows: sql.includes('clock_timestamp') ? [{ now: String(Date.now() + ahead) }] : [] });
  const health = new Health({ raw } as unknown as Knex, new BlobStore(folder), { isListening: true } as EventHub);
  opened.push(health);
  await health.start();
  return health;
}

describe('what the server stands on', () => {
  it.each([
    ['two days behind', 2 * 86_400_000],
    ['two days ahead', -2 * 86_400_000],
  ])('refuses to decide by a clock that is %s of the database’s, and says so', async (words, ahead) => {
    const health = await healthWith(ahead);
    expect(() => health.refuseSkew()).toThrow(Refused);
    const { ok, degraded } = await health.condition();
    const [which = ''] = words.split(' ').slice(-1);
    expect([ok, degraded]).toEqual([true, [expect.stringMatching(`172800 seconds ${which}`)]]);
  });
  it('decides by one that is off by less than two seconds', async () => {
    const health = await healthWith(1_500);
    expect(() => health.refuseSkew()).not.toThrow();
    expect((await health.condition()).degraded).toEqual([]);
  });
  it('says that the database is away, and that the disk takes nothing', async () => {
    expect(await (await healthWith(null)).condition()).toMatchObject({
      ok: false,
      missing: 'The database can’t be reached.',
    });
    expect((await (await healthWith(0, '/proc/none')).condition()).degraded).toEqual([
      expect.stringMatching(/^Can’t write to disk \(ENOENT\)/),
    ]);
  });
});
