import type { Knex } from 'knex';

/** Who says that the draft of something in the stock may go on its pages: of the draft as it is, once each. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE stock_approval (
  portfolio_id bigint NOT NULL, item_id bigint NOT NULL, draft_version int NOT NULL, account_id bigint NOT NULL REFERENCES account, at timestamptz NOT NULL,
  PRIMARY KEY (item_id, account_id), FOREIGN KEY (portfolio_id, item_id) REFERENCES stock_item (portfolio_id, id));`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE stock_approval;');
}
