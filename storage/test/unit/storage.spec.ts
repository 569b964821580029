import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { VisitLine } from '@domatium/core/traffic';
import {
  BlobStore,
  packPage,
  readSettings,
  SettingsError,
  sha256,
  Spool,
  unpackPage,
  unknownSettings,
  describeSettings,
  type Query,
} from '../../src/index.js';

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'domatium-'));
});
afterAll(() => rm(folder, { recursive: true }));

it('refuses wrong settings all at once, by name', () => {
  const faults = (environment: Record<string, string>) => {
    try {
      readSettings(environment);
      return [];
    } catch (error) {
      return (error as SettingsError).faults.map((fault) => fault.split(/[=:]/)[0]);
    }
  };
  expect(
    faults({ DOMATIUM_APP_PORT: 'x', DOMATIUM_EDGE_PORT: '0', DOMATIUM_DB_PORT: '70000', DATABASE_URL: 'mysql://x' }),
  ).toEqual(['DATABASE_URL', 'DOMATIUM_APP_PORT', 'DOMATIUM_EDGE_PORT', 'DOMATIUM_DB_PORT']);
  expect(faults({ DOMATIUM_APP_PORT: '5000', DOMATIUM_EDGE_PORT: '5000' })).toHaveLength(1);
  expect(readSettings({ DATABASE_URL: 'postgres://a@b/c' }).isOwnDatabase).toBe(false);
});
it('publishes under real names, names misspelt settings, and has each in the handbook', async () => {
  const open = { DOMATIUM_PAGES_SCHEME: 'https', DOMATIUM_PAGES_SUFFIX: 'none' };
  expect(readSettings(open).style).toEqual({ scheme: 'https', suffix: '', port: null });
  expect(readSettings({}).style).toEqual({ scheme: 'http', suffix: '.localhost', port: 4680 });
  expect(readSettings({ ...open, DOMATIUM_PAGES_PORT: '8443' }).style.port).toBe(8443);
  expect(unknownSettings({ DOMATIUM_APP_PROT: '1', DOMATIUM_APP_PORT: '1', PATH: '/' })).toEqual(['DOMATIUM_APP_PROT']);
  const handbook = await readFile(join(import.meta.dirname, '../../../docs/OPERATING.md'), 'utf8');
  const rows = [...handbook.matchAll(/^\| `([A-Z_]+)`/gm)].map(([, name]) => name);
  expect(rows).toEqual(describeSettings().map(({ name }) => name));
});

describe('blobs', () => {
  it('are whole or absent, and pages are read as they were written, now and before', async () => {
    const store = new BlobStore(folder);
    const pages = Array.from({ length: 8 }, (_, n) => Buffer.from(`<p>${n}</p>`.repeat(500)));
    const packed = new Map(await Promise.all(pages.map(async (page) => [sha256(page), await packPage(page)] as const)));
    await Promise.all([store.write('pages', packed), store.write('pages', packed)]);
    for (const page of pages) {
      const hash = sha256(page);
      expect((await store.readPage(hash))?.equals(page)).toBe(true);
      expect(await store.has('files', hash)).toBe(false);
      expect(
        (await readdir(join(folder, 'blobs/pages', hash.slice(0, 2)))).filter((name) => name.endsWith('.tmp')),
      ).toEqual([]);
    }
    // Three lengths, then the encodings: as pages were kept before.
    const former = Buffer.concat([Buffer.from([0, 0, 0, 4, 0, 0, 0, 2, 0, 0, 0, 1]), Buffer.from('pagebrg')]);
    expect(String(unpackPage(former))).toBe('page');
    expect(() => unpackPage((packed.values().next().value as Buffer).subarray(0, -1))).toThrow('cut short');
  });
});

describe('the spool', () => {
  it('ships each file once, leaves out a line that was cut, sets aside what it can’t read, and keeps what could not be shipped', async () => {
    const place = join(folder, 'spool');
    const line: VisitLine = {
      day: '2026-11-25',
      portfolioId: 1,
      host: 'a.example',
      path: '/',
      outcome: 'page',
      pageId: 1,
      isBot: false,
      count: 2,
      visitors: ['x'],
    };
    const spool = new Spool(place, 'edge-1');
    await spool.append([line, line]);
    await writeFile(join(place, 'edge-1-0.open'), `${JSON.stringify(line)}\n{"day":7,"visitors":"x"}\n{"day":"2026-`);
    await spool.close(true);
    const shipped = new Set<unknown>();
    let counted = 0;
    const query: Query = <Row>(sql: string, values: readonly unknown[] = []) => {
      if (sql.includes('shipped_spool')) {
        const isNew = !shipped.has(values[0]);
        shipped.add(values[0]);
        return Promise.resolve((isNew ? [{}] : []) as Row[]);
      }
      if (sql.includes('json_populate_recordset(NULL::visit_day'))
        for (const { answers } of JSON.parse(String(values[0])) as { answers: number }[]) counted += answers;
      return Promise.resolve([] as Row[]);
    };
    await expect(spool.ship(() => Promise.reject(new Error('down')))).rejects.toThrow('down');
    const names = await readdir(place);
    expect([await spool.ship((work) => work(query)), await spool.unread()]).toEqual([3, ['edge-1-0.unread']]);
    expect(counted).toBe(6);
    // The same file again, as after a kill between commit and removal.
    await writeFile(join(place, names[0] as string), JSON.stringify(line) + '\n');
    await spool.ship((work) => work(query));
    expect(counted).toBe(6);
    expect(await readdir(place)).toEqual(['edge-1-0.unread']);
    // Closed and shipped in the midst of a long write: what is written after it is counted too.
    const written = spool.append(Array.from({ length: 50_000 }, () => line));
    while (!(await readdir(place)).some((name) => name.endsWith('.open'))) await new Promise(setImmediate);
    for (const beforeIt of [Promise.resolve(), written]) {
      await beforeIt;
      await spool.close();
      await spool.ship((work) => work(query));
    }
    expect([counted, await readdir(place)]).toEqual([6 + 2 * 50_000, ['edge-1-0.unread']]);
  });
});
