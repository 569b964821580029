import type { IncomingMessage } from 'node:http';
import { describe, expect, it } from '@jest/globals';
import type { PortfolioId } from '@domatium/core/plan';
import { instant } from '@domatium/core/time';
import type { VisitLine } from '@domatium/core/traffic';
import type { Spool, StoredHost } from '@domatium/storage';
import { encodingFor } from '../../src/artifacts.js';
import { Visits } from '../../src/index.js';

const host = (name: string, zone = 'UTC', isOwn = false): StoredHost => ({
  hostId: name.length,
  portfolioId: 1 as PortfolioId,
  zone,
  isOwn,
  host: name,
  version: 1,
  routes: [],
  pages: [],
  sites: [],
});
const asks = (network: string, agent: string | undefined = 'Mozilla/5.0 (X11) AppleWebKit/537.36') =>
  ({ socket: { remoteAddress: network }, headers: { 'user-agent': agent } }) as unknown as IncomingMessage;

function counting(): { visits: Visits; flush: (at?: number) => Promise<VisitLine[]> } {
  const lines: VisitLine[] = [];
  const visits = new Visits({
    append: (some: readonly VisitLine[]) => {
      lines.push(...some);
      return Promise.resolve();
    },
  } as unknown as Spool);
  return {
    visits,
    flush: async (at = Date.UTC(2026, 10, 25, 12)) => {
      await visits.flush(instant(at));
      return lines.splice(0);
    },
  };
}

describe('visits', () => {
  it('gather a batch into one line a page, with each visitor once', async () => {
    const { visits, flush } = counting();
    const [a, b] = [asks('10.0.0.1'), asks('10.0.0.2')];
    for (const one of [a, a, b]) visits.note(host('a.example'), '/', 'page', 1, one);
    visits.note(host('a.example'), '/', 'page', 1, asks('10.0.0.1'));
    const [line, ...rest] = await flush();
    expect(rest.filter(({ host: name }) => name !== 'a.example')).toEqual([]);
    expect(line).toMatchObject({ outcome: 'page', pageId: 1, isBot: false });
    expect(JSON.stringify([line, ...rest])).not.toContain('10.0.0');
    expect(await flush()).toEqual([]);
  });
  it('tell the same visitor by the same hash a page and day, and by another on any other', async () => {
    const { visits, flush } = counting();
    const own = host('a.example');
    const hash = async (pageId: number, network: string, at?: number) => {
      visits.note(own, `/${pageId}`, 'page', pageId, asks(network));
      return (await flush(at))[0]?.visitors[0];
    };
    visits.setSalts(
      new Map([
        ['2026-11-25', 'salt one'],
        ['2026-11-26', 'salt two'],
      ]),
    );
    const first = await hash(1, '10.0.0.1');
    expect(await hash(1, '10.0.0.1')).toBe(first);
    const others = [
      await hash(2, '10.0.0.1'),
      await hash(1, '10.0.0.2'),
      await hash(1, '10.0.0.1', Date.UTC(2026, 10, 26, 12)),
    ];
    expect(new Set([first, ...others]).size).toBe(4);
    // A salt that is gone can't be found again.
    visits.setSalts(new Map([['2026-11-26', 'salt two']]));
    expect(await hash(1, '10.0.0.1')).not.toBe(first);
  });
  it('keep outcomes of one address apart, count programs as programs, and redirects without visitors', async () => {
    const { visits, flush } = counting();
    const own = host('a.example');
    visits.note(own, '/', 'page', 1, asks('10.0.0.1'));
    visits.note(own, '/', 'redirect', 1, asks('10.0.0.1'));
    visits.note(own, '/', 'page', 2, asks('10.0.0.1'));
    visits.note(own, '/', 'page', 1, asks('10.0.0.3', 'Examplebot/1.0 (+https://x.example/bot)'));
    visits.note(own, '/x', 'not-found', null, asks('10.0.0.1'));
    const lines = (await flush()).map(({ path, outcome, pageId, isBot, count, visitors }) => [
      path,
      outcome,
      pageId,
      isBot,
      count,
      visitors.length,
    ]);
    expect(lines).toEqual([
      ['/', 'page', 1, false, 1, 1],
      ['/', 'page', 1, true, 1, 0],
      ['/', 'redirect', 1, false, 1, 0],
      ['/', 'page', 2, false, 1, 1],
      ['/x', 'not-found', null, false, 1, 0],
    ]);
  });
  it('belong to the day of the portfolio’s zone; the portfolio’s own host is not counted', async () => {
    const { visits, flush } = counting();
    visits.note(host('a.example', 'Pacific/Auckland'), '/', 'page', 1, asks('10.0.0.1'));
    visits.note(host('own.example', 'UTC', true), '/', 'page', 1, asks('10.0.0.1'));
    expect((await flush()).map(({ day, host: name }) => [day, name])).toEqual([['2026-11-26', 'a.example']]);
  });
});

it.each([
  [undefined, 'identity'],
  ['', 'identity'],
  ['gzip', 'gzip'],
  ['br', 'br'],
  ['gzip, deflate, br, zstd', 'br'],
  ['gzip;q=1, br;q=0.5', 'gzip'],
  ['br;q=0', 'identity'],
  ['*', 'br'],
  ['*;q=0', 'identity'],
  ['identity', 'identity'],
  ['gzip;q=0, *', 'br'],
  ['BR', 'br'],
] as const)('of Accept-Encoding %j it takes %s', (header, encoding) => expect(encodingFor(header)).toBe(encoding));
