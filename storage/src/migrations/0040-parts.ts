import type { Knex } from 'knex';

const BEFORE = "'theme', 'piece', 'values', 'css', 'profile'";
const NEW = "'header', 'footer', 'band', 'standing'";
const checks = (kinds: string, ofOne: string) => `
ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, DROP CONSTRAINT stock_item_site_check,
  ADD CONSTRAINT stock_item_kind_check CHECK (kind IN (${kinds})),
  ADD CONSTRAINT stock_item_site_check CHECK (CASE WHEN kind IN ('css', 'profile') THEN site_id IS NOT NULL WHEN kind IN (${ofOne}) THEN true ELSE site_id IS NULL END);`;

/** Headers, footers and notice bands are in the stock, and what is said of where they stand: once for a site or a portfolio. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${checks(`${BEFORE}, ${NEW}`, "'values', 'standing'")}
CREATE UNIQUE INDEX stock_item_standing ON stock_item (portfolio_id, coalesce(site_id, 0)) WHERE kind = 'standing' AND removed_at IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  const items = `(SELECT id FROM stock_item WHERE kind IN (${NEW}))`;
  await knex.raw(`
DROP INDEX stock_item_standing;
ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
DELETE FROM release_stock WHERE item_id IN ${items};
DELETE FROM stock_period WHERE item_id IN ${items};
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
DELETE FROM stock_revision WHERE item_id IN ${items};
DELETE FROM stock_item WHERE kind IN (${NEW});
${checks(BEFORE, "'values'")}`);
}
