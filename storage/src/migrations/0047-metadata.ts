import type { Knex } from 'knex';

const BEFORE = "'theme', 'piece', 'values', 'css', 'profile', 'header', 'footer', 'band', 'standing', 'menu', 'legal'";
const kindCheck = (kinds: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, ADD CONSTRAINT stock_item_kind_check CHECK (kind IN (${kinds}))`;
const siteCheck = (ofAny: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_site_check, ADD CONSTRAINT stock_item_site_check
    CHECK (CASE WHEN kind IN ('css', 'profile', 'menu') THEN site_id IS NOT NULL WHEN kind IN (${ofAny}) THEN true ELSE site_id IS NULL END)`;
const keyCheck = (free: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_check, ADD CONSTRAINT stock_item_check
    CHECK (${free}kind = 'menu' AND key IS NOT NULL OR kind <> 'menu' AND (kind = 'theme') = (key IS NOT NULL))`;

/** What is said to search engines, and where pages are shared, of portfolios, sites and paths is in the stock (decision 0050). */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${kindCheck(`${BEFORE}, 'metadata'`)};
    ${siteCheck("'values', 'standing', 'legal', 'metadata'")};
    ${keyCheck("kind = 'standing' OR kind = 'metadata' AND (key IS NULL OR key LIKE 'path:/%' AND site_id IS NOT NULL) OR ")};
    CREATE UNIQUE INDEX stock_item_metadata ON stock_item (portfolio_id, coalesce(site_id, 0), coalesce(key, '')) WHERE kind = 'metadata' AND removed_at IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  const items = "(SELECT id FROM stock_item WHERE kind = 'metadata')";
  await knex.raw(`
    DROP INDEX stock_item_metadata;
    ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
    DELETE FROM release_stock WHERE item_id IN ${items};
    DELETE FROM stock_period WHERE item_id IN ${items};
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
    DELETE FROM stock_revision WHERE item_id IN ${items};
    DELETE FROM stock_item WHERE kind = 'metadata';
    ${kindCheck(BEFORE)};
    ${siteCheck("'values', 'standing', 'legal'")};
    ${keyCheck("kind = 'standing' OR ")};`);
}
