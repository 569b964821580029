import type { Knex } from 'knex';

/** Own CSS of a site is in the stock too: one for each site. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, DROP CONSTRAINT stock_item_check1,
  ADD CONSTRAINT stock_item_kind_check CHECK (kind IN ('theme', 'piece', 'values', 'css')),
  ADD CONSTRAINT stock_item_site_check CHECK (CASE kind WHEN 'css' THEN site_id IS NOT NULL WHEN 'values' THEN true ELSE site_id IS NULL END);
CREATE UNIQUE INDEX stock_item_css ON stock_item (site_id) WHERE kind = 'css' AND removed_at IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
DROP INDEX stock_item_css;
ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, DROP CONSTRAINT stock_item_site_check,
  ADD CONSTRAINT stock_item_kind_check CHECK (kind IN ('theme', 'piece', 'values')),
  ADD CONSTRAINT stock_item_check1 CHECK (site_id IS NULL OR kind = 'values');`);
}
