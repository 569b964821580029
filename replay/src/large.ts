import { newBlock, richTextOf } from '@domatium/core/document';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { THEMES } from '@domatium/core/theme';
import type { Knex } from 'knex';
import { publishPlans, type Publisher } from '@domatium/server';
import type { Report } from './replay.js';

/** What `--size large` makes, and what the register is measured with. */
export const LARGE = { pages: 10_000, hosts: 300, periodsEach: 6, campaigns: 40, days: 730 };

const WORDS =
  'boats put in at the north side while the pier is mended follow the lamps and ring the bell when nobody comes'.split(
    ' ',
  );
const prose = (from: number, count: number) =>
  Array.from({ length: count }, (_, n) => WORDS[(from * 7 + n * 5 + ((n * n) % 11)) % WORDS.length]).join(' ');
/** A page of five blocks and some 3 KB of text; its name stands in it, so that no two are the same. */
const DOCUMENT = JSON.stringify({
  metadata: { title: '@NAME@', description: prose(1, 20) },
  blocks: [
    newBlock('opening', 'opening1', { kicker: 'Notice', heading: '@NAME@', text: prose(2, 30) }),
    newBlock('text', 'text1', { body: richTextOf(prose(3, 90), prose(4, 70), prose(5, 80)) }),
    newBlock('reasons', 'reasons1', {
      heading: 'Why',
      items: [1, 2, 3].map((n) => ({ title: prose(n, 3), text: prose(n + 6, 20), picture: null })),
    }),
    newBlock('quote', 'quote1', { text: prose(9, 25), who: 'A guest', role: 'Harbour' }),
    newBlock('callToAction', 'ask1', { heading: 'Ask', text: prose(10, 20), button: null }),
  ],
}).replaceAll("'", '\u2019');
const FIRST_PERIOD = 20_000_000;
const AT_ONCE = 1_000;
/** Tables whose rows get identities here; what comes later begins behind them. */
const IDENTITIES = ['domain', 'host', 'site', 'campaign', 'page', 'revision', 'address'];
/** A number below `most` that looks as if by chance, always the same for the same row. */
const chance = (expression: string, salt: string, most: number) =>
  `(('x' || substr(md5(${expression} || '${salt}'), 1, 6))::bit(24)::int % ${most})`;

const THEME_KEYS = Object.keys(THEMES)
  .map((key) => `'${key}'`)
  .join(', ');

/**
 * A large portfolio, written directly: replaying sixty thousand releases would take hours. Each page has a draft,
 * one revision, and periods of about 100 days with about 20 between, to the minute, from 600 days ago on; every other page was
 * visited each day of two years.
 */
export async function fillLarge(database: Knex, portfolio: PortfolioId, size = LARGE): Promise<void> {
  const since = "date_trunc('day', now()) - interval '600 days'";
  const pages = `SELECT n, 1000000 + n AS id, n % ${size.hosts} AS host FROM generate_series(0, ${size.pages - 1}) n`;
  const periods = `SELECT p.id, p.n, p.host, k, ${since} + (k * 120 + p.n % 90) * interval '1 day' + ${chance("p.n::text || ' ' || k", 'from', 14400)} * interval '1 minute' AS begin FROM (${pages}) p CROSS JOIN generate_series(0, ${size.periodsEach - 1}) k`;
  const until = `begin + interval '90 days' + ${chance("n::text || ' ' || k", 'until', 14400)} * interval '1 minute'`;
  await database.transaction(async (trx) => {
    await trx.raw("SELECT set_config('domatium.instant', '2000-01-01', true)");
    for (const sql of [
      `INSERT INTO domain (id, portfolio_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, ${portfolio}, 'place-' || n || '.example' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO host (id, portfolio_id, domain_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, ${portfolio}, 1000 + n, 'place-' || n || '.example' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO site (id, portfolio_id, name, brand, theme) OVERRIDING SYSTEM VALUE SELECT 1000 + n, ${portfolio}, 'Place ' || n, 'Place ' || n, (ARRAY[${THEME_KEYS}])[1 + n % ${Object.keys(THEMES).length}] FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO site_address (id, portfolio_id, site_id, host_id, is_primary, from_at) SELECT 500000 + n, ${portfolio}, 1000 + n, 1000 + n, true, '2020-01-01' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO campaign (id, portfolio_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, ${portfolio}, 'Campaign ' || n FROM generate_series(0, ${size.campaigns - 1}) n`,
      `INSERT INTO page (id, portfolio_id, name, campaign_id, owner_id, created_at, changed_at) OVERRIDING SYSTEM VALUE
        SELECT id, ${portfolio}, (ARRAY['Winter timetable', 'Gift voucher', 'Harbour lights', 'Night crossing', 'Crew wanted', 'Summer fares', 'Residency', 'Storm notice'])[1 + n % 8] || ' ' || (ARRAY['at Skerrow', 'by night', 'in June', 'for schools', 'at Tarvik', 'two', 'north', 'again', 'inland', 'on Sunday', 'at Kelpholm'])[1 + ${chance('n::text', 'name', 11)}] || ' ' || n,
        CASE WHEN n % 3 = 0 THEN 1000 + n % ${size.campaigns} END, 1 + n % 4, ${since}, ${since} + ${chance('n::text', 'changed', 860000)} * interval '1 minute' FROM (${pages}) p`,
      `INSERT INTO revision (id, portfolio_id, page_id, number, document, created_at) OVERRIDING SYSTEM VALUE SELECT id, ${portfolio}, id, 1, replace('${DOCUMENT}', '@NAME@', 'Page ' || n)::jsonb, ${since} FROM (${pages}) p`,
      `INSERT INTO draft (page_id, portfolio_id, document, changed_at) SELECT id, ${portfolio}, replace('${DOCUMENT}', '@NAME@', 'Page ' || n)::jsonb, ${since} FROM (${pages}) p`,
      `INSERT INTO placement (id, portfolio_id, page_id, site_id, path, from_at) SELECT 10000000 + n, ${portfolio}, id, 1000 + host, '/page-' || n, ${since} FROM (${pages}) p`,
      `INSERT INTO period (id, portfolio_id, page_id, revision_id, from_at, until_at) SELECT ${FIRST_PERIOD} + n * 10 + k, ${portfolio}, id, id, begin, ${until} FROM (${periods}) p`,
      `INSERT INTO address (id, host_id, path) OVERRIDING SYSTEM VALUE SELECT id, 1000 + host, '/page-' || n FROM (${pages}) p`,
      `INSERT INTO claim (portfolio_id, address_id, layer, page_id, revision_id, source_id, from_at, until_at) SELECT ${portfolio}, id, 'page', id, id, ${FIRST_PERIOD} + n * 10 + k, begin, ${until} FROM (${periods}) p`,
      `SELECT setval('plan_row_id', 30000000)`,
      ...IDENTITIES.map((table) => `SELECT setval(pg_get_serial_sequence('${table}', 'id'), 2000000)`),
      `INSERT INTO visit_day (portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits)
        SELECT ${portfolio}, (now() - d * interval '1 day')::date, 'place-' || host || '.example', '/page-' || n, 'page', id, false, 10 + n % 50, ${chance("n::text || ' ' || d", 'visits', 60)} + 1
        FROM (${pages}) p CROSS JOIN generate_series(0, ${size.days - 1}) d WHERE n % 2 = 0`,
    ])
      await trx.raw(sql);
  });
  await database.raw('ANALYZE');
}

/** Makes the pages of a large portfolio ready for visitors, some at a time. */
export async function publishLarge(publisher: Publisher, portfolio: PortfolioId, report: Report): Promise<void> {
  const rows = (await publisher
    .database('period')
    .where({ portfolio_id: portfolio })
    .where('id', '>=', FIRST_PERIOD)
    .distinct('page_id as id')
    .orderBy('id')) as { id: PageId }[];
  for (let first = 0; first < rows.length; first += AT_ONCE) {
    await publishPlans(
      publisher,
      portfolio,
      rows.slice(first, first + AT_ONCE).map(({ id }) => id),
      first === 0 ? 'all' : new Set(),
    );
    report('pages published', Math.min(first + AT_ONCE, rows.length), rows.length);
  }
}
