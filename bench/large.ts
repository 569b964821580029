import type { Knex } from 'knex';

/** The size of the largest portfolios there are. */
export const LARGE = { pages: 10_000, hosts: 300, periodsEach: 6, campaigns: 40, days: 730 };

const DOCUMENT = JSON.stringify({
  metadata: { title: 'A page of many', description: 'Words' },
  blocks: [{ id: 'opening1', type: 'opening', fields: { heading: 'A page of many' } }],
});

/**
 * A large portfolio written directly: what it holds does not matter here, how much there is does. Each page has a draft,
 * one revision, and periods of 100 days with 20 between, from 600 days ago on; every third ends for good, every other
 * page was visited each day of two years.
 */
export async function fillLarge(database: Knex, size = LARGE): Promise<void> {
  const since = "date_trunc('day', now()) - interval '600 days'";
  const pages = `SELECT n, 1000000 + n AS id, n % ${size.hosts} AS host FROM generate_series(0, ${size.pages - 1}) n`;
  const periods = `SELECT p.id, p.n, p.host, k, ${since} + (k * 120 + p.n % 90) * interval '1 day' AS begin FROM (${pages}) p CROSS JOIN generate_series(0, ${size.periodsEach - 1}) k`;
  const until = `begin + interval '100 days'`;
  await database.transaction(async (trx) => {
    await trx.raw("SELECT set_config('domatium.instant', '2000-01-01', true)");
    for (const sql of [
      `INSERT INTO domain (id, portfolio_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 'place-' || n || '.example' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO host (id, portfolio_id, domain_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 1000 + n, 'place-' || n || '.example' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO site (id, portfolio_id, name, brand, theme) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 'Site ' || n, 'Site', 'ferry' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO site_address (id, portfolio_id, site_id, host_id, is_primary, from_at) SELECT 500000 + n, 1, 1000 + n, 1000 + n, true, '2020-01-01' FROM generate_series(0, ${size.hosts - 1}) n`,
      `INSERT INTO campaign (id, portfolio_id, name) OVERRIDING SYSTEM VALUE SELECT 1000 + n, 1, 'Campaign ' || n FROM generate_series(0, ${size.campaigns - 1}) n`,
      `INSERT INTO page (id, portfolio_id, name, campaign_id, owner_id, created_at, changed_at) OVERRIDING SYSTEM VALUE
        SELECT id, 1, (ARRAY['Winter timetable', 'Gift voucher', 'Harbour lights', 'Night crossing', 'Crew wanted', 'Summer fares', 'Residency', 'Storm notice'])[1 + n % 8] || ' ' || n,
        CASE WHEN n % 3 = 0 THEN 1000 + n % ${size.campaigns} END, 1 + n % 4, ${since}, ${since} + (n % 600) * interval '1 day' FROM (${pages}) p`,
      `INSERT INTO revision (id, portfolio_id, page_id, number, document, created_at) OVERRIDING SYSTEM VALUE SELECT id, 1, id, 1, '${DOCUMENT}', ${since} FROM (${pages}) p`,
      `INSERT INTO draft (page_id, portfolio_id, document, changed_at) SELECT id, 1, '${DOCUMENT}', ${since} FROM (${pages}) p`,
      `INSERT INTO placement (id, portfolio_id, page_id, site_id, path, from_at) SELECT 10000000 + n, 1, id, 1000 + host, '/page-' || n, ${since} FROM (${pages}) p`,
      `INSERT INTO period (id, portfolio_id, page_id, revision_id, from_at, until_at) SELECT 20000000 + n * 10 + k, 1, id, id, begin, ${until} FROM (${periods}) p`,
      `INSERT INTO address (id, host_id, path) OVERRIDING SYSTEM VALUE SELECT id, 1000 + host, '/page-' || n FROM (${pages}) p`,
      `INSERT INTO claim (portfolio_id, address_id, layer, page_id, revision_id, source_id, from_at, until_at) SELECT 1, id, 'page', id, id, 20000000 + n * 10 + k, begin, ${until} FROM (${periods}) p`,
      `SELECT setval('plan_row_id', 30000000)`,
      `INSERT INTO visit_day (portfolio_id, day, host, path, outcome, page_id, is_bot, answers, visits)
        SELECT 1, (now() - d * interval '1 day')::date, 'place-' || host || '.example', '/page-' || n, 'page', id, false, 10 + n % 50, 8 + (n * 7 + d * 13) % 60
        FROM (${pages}) p CROSS JOIN generate_series(0, ${size.days - 1}) d WHERE n % 2 = 0`,
    ])
      await trx.raw(sql);
  });
  await database.raw('ANALYZE');
}
