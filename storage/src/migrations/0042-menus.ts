import type { Knex } from 'knex';

const BEFORE = "'theme', 'piece', 'values', 'css', 'profile', 'header', 'footer', 'band', 'standing'";
const NEW = "'menu', 'legal'";
const kindCheck = (kinds: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, ADD CONSTRAINT stock_item_kind_check CHECK (kind IN (${kinds}))`;
const siteCheck = (ofOne: string, ofAny: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_site_check, ADD CONSTRAINT stock_item_site_check
    CHECK (CASE WHEN kind IN (${ofOne}) THEN site_id IS NOT NULL WHEN kind IN (${ofAny}) THEN true ELSE site_id IS NULL END)`;
const keyCheck = (free: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_check, ADD CONSTRAINT stock_item_check CHECK (${free}(kind = 'theme') = (key IS NOT NULL))`;

/**
 * Menus and page trees of sites, each by its name, and the legal pages that a portfolio wants and a site has, are in the
 * stock (decision 0047).
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${kindCheck(`${BEFORE}, ${NEW}`)};
    ${siteCheck("'css', 'profile', 'menu'", "'values', 'standing', 'legal'")};
    ${keyCheck("kind = 'standing' OR kind = 'menu' AND key IS NOT NULL OR kind <> 'menu' AND ")};
    CREATE UNIQUE INDEX stock_item_menu ON stock_item (site_id, key) WHERE kind = 'menu' AND removed_at IS NULL;
    CREATE UNIQUE INDEX stock_item_legal ON stock_item (portfolio_id, coalesce(site_id, 0)) WHERE kind = 'legal' AND removed_at IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  const items = `(SELECT id FROM stock_item WHERE kind IN (${NEW}))`;
  await knex.raw(`
    DROP INDEX stock_item_menu, stock_item_legal;
    ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
    DELETE FROM release_stock WHERE item_id IN ${items};
    DELETE FROM stock_period WHERE item_id IN ${items};
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
    DELETE FROM stock_revision WHERE item_id IN ${items};
    DELETE FROM stock_item WHERE kind IN (${NEW});
    UPDATE frame_route SET parts = parts - 'nav';
    ${kindCheck(BEFORE)};
    ${siteCheck("'css', 'profile'", "'values', 'standing'")};
    ${keyCheck("kind = 'standing' OR ")};`);
}
