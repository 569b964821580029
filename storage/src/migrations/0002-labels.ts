import type { Knex } from 'knex';

/** Labels of pages: words of a portfolio's own, any number on a page. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE label (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 60), UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, name));
CREATE TABLE page_label (
  portfolio_id bigint NOT NULL, page_id bigint NOT NULL, label_id bigint NOT NULL, PRIMARY KEY (page_id, label_id),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id),
  FOREIGN KEY (portfolio_id, label_id) REFERENCES label (portfolio_id, id));
CREATE INDEX ON page_label (label_id);
CREATE INDEX ON page (portfolio_id);
CREATE INDEX ON placement (portfolio_id);
CREATE INDEX ON period (portfolio_id, page_id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE page_label; DROP TABLE label');
}
