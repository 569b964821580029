import type { Knex } from 'knex';

/**
 * Releases of the stock are prepared and approved like those of pages. `stock_approval` is read no more; the version
 * before still writes it while both run, and the next one drops it.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE prepared_release ADD COLUMN stock jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(stock) = 'array');
CREATE TABLE prepared_item (
  portfolio_id bigint NOT NULL, prepared_id bigint NOT NULL, item_id bigint NOT NULL, PRIMARY KEY (prepared_id, item_id),
  FOREIGN KEY (portfolio_id, prepared_id) REFERENCES prepared_release (portfolio_id, id) ON DELETE CASCADE,
  FOREIGN KEY (portfolio_id, item_id) REFERENCES stock_item (portfolio_id, id));
CREATE INDEX ON prepared_item (item_id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE prepared_item; ALTER TABLE prepared_release DROP COLUMN stock');
}
