import { gzipSync } from 'node:zlib';
import type { PageId, PlanRowId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { compileHost, sitemapsAt, type Route } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import { figure, finish, median } from './print.js';

/** The sitemap of a host with 50,000 addresses, as an edge makes it of what it holds: read, written, packed. */
const COUNT = 50_000;
const NOW = Date.UTC(2026, 10, 30);
const style = { scheme: 'https', suffix: '', port: null } as const;
const routes = Array.from({ length: COUNT + 5_000 }, (_, n): Route => ({
  path: `/news/${2000 + (n % 26)}/a-page-about-the-weather-number-${n}`,
  layer: 'page',
  during: { from: (NOW - (n + 1) * 60_000) as Instant, until: n % 3 ? null : ((NOW + n * 60_000 + 1) as Instant) },
  answer: {
    ...({ kind: 'page', pageId: n as PageId, revisionId: n as RevisionId, claimId: n as PlanRowId } as const),
    ...{ artifact: 'x', ...(n % 11 ? {} : { hiddenFrom: 0 as Instant }) },
  },
}));
const host = compileHost({
  ...{ host: 'news.example', version: 1, portfolioId: 1 as PortfolioId, routes, sites: [], pages: [] },
});
const rounds = Array.from({ length: 9 }, () => {
  const begun = performance.now();
  const { parts } = sitemapsAt(host, NOW, style);
  const made = performance.now();
  parts.forEach((part) => gzipSync(part, { level: 1 }));
  return { made: made - begun, packed: performance.now() - made, bytes: parts[0]?.length ?? 0 };
});
figure('bytes of it', rounds[0]?.bytes ?? 0, 'bytes');
figure('sitemap made, the first after a change of the host', rounds[0]?.made ?? 0, 'ms');
figure('sitemap made, median of nine', median(rounds.map(({ made }) => made)), 'ms', { atMost: 100 });
figure('packed besides, on another thread', median(rounds.map(({ packed }) => packed)), 'ms');
finish();
