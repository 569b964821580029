import type { Knex } from 'knex';

/** Small pictures of published pages, by artifact: those that are wanted, and the files of those that were made. Indices for visits. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE thumbnail (
  artifact text PRIMARY KEY, wanted_at timestamptz NOT NULL, file text, failures smallint NOT NULL DEFAULT 0);
CREATE INDEX ON thumbnail (wanted_at) WHERE file IS NULL;`);
  // Visits of people to pages: the register sums the last days and asks for the last one, of every page at once.
  await knex.raw(`
CREATE INDEX visit_day_of_page ON visit_day (page_id, day DESC) INCLUDE (visits) WHERE NOT is_bot AND outcome = 'page';
CREATE INDEX visit_day_of_people ON visit_day (portfolio_id, day) INCLUDE (page_id, visits) WHERE NOT is_bot AND outcome = 'page';`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE thumbnail; DROP INDEX visit_day_of_page, visit_day_of_people');
}
