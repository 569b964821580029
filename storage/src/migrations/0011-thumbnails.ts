import type { Knex } from 'knex';

/** Small pictures of published pages, by artifact: those that are wanted, and the files of those that were made. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE thumbnail (
  artifact text PRIMARY KEY, wanted_at timestamptz NOT NULL, file text, failures smallint NOT NULL DEFAULT 0);
CREATE INDEX ON thumbnail (wanted_at) WHERE file IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE thumbnail');
}
