import { describe, expect, it } from '@jest/globals';
import { allEndpoints } from '@domatium/contracts';
import type { Schema } from 'yup';
import type { Refused } from '../../src/platform/errors.js';
import { validated } from '../../src/platform/http/validate.js';

const release = allEndpoints.release.body as Schema;
const key = { idempotencyKey: 'one-of-many' };
const shift = (pageId: number) => ({ act: 'shift', pageId, days: 3 });
const many = Array.from({ length: 1500 }, (_, n) => shift(n + 1));
const put = (itemId: number) => ({ act: 'put', itemId, from: 'now', until: null });
const wrong = async (body: object) =>
  validated(release, body, 'body').then(
    () => [],
    (error: Refused) => (error.extra.fields ?? []).map(({ path, message }) => `${path}: ${message}`),
  );

describe('a body with long lists', () => {
  it('is read whole, list by list, and what is asked of all of it sees all of it', async () => {
    for (const changes of [many.slice(0, 20), many.slice(0, 21), many])
      expect(await validated(release, { ...key, changes }, 'body')).toEqual({ ...key, changes, stock: [] });
    const stock = Array.from({ length: 60 }, (_, n) => put(n + 1));
    expect(await validated(release, { ...key, changes: [], stock }, 'body')).toEqual({ ...key, changes: [], stock });
    expect(await validated(release, { ...key, changes: many, stock }, 'body')).toMatchObject({ changes: many, stock });
    expect(await wrong({ ...key, changes: [], stock: [] })).toEqual(['changes: Nothing to release.']);
  });
  it('names what is wrong by its place in the whole, the first of it, and refuses what is too long unread', async () => {
    const broken = many.map((change, n) => (n === 700 ? { ...change, days: 0 } : change));
    expect(await wrong({ ...key, changes: broken })).toEqual(['changes[700].days: Shift by at least one day.']);
    const all = await wrong({ ...key, changes: many.map((change) => ({ ...change, days: 'x' })) });
    expect([all.length, all[0]]).toEqual([50, 'changes[0].days: Enter a number of days.']);
    const long = [...many, ...many].map(() => ({ act: 'shift', pageId: 1, days: 'never read' }));
    expect(await wrong({ ...key, changes: long })).toEqual(['changes: At most 2,000 changes in one release.']);
  });
});
