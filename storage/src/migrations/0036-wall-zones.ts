import type { Knex } from 'knex';

/** On whose clock a moment of a page was chosen, where that is not its portfolio's: the instant alone can't say. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE wall_zone (
  portfolio_id bigint NOT NULL,
  page_id bigint NOT NULL,
  at timestamptz NOT NULL,
  zone text NOT NULL CHECK (length(zone) BETWEEN 1 AND 64),
  PRIMARY KEY (page_id, at),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id)
);
CREATE INDEX ON wall_zone (portfolio_id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE wall_zone');
}
