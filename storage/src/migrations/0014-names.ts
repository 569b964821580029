import type { Knex } from 'knex';

/** Revisions that somebody gave a name. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE revision ADD COLUMN name text CHECK (length(name) BETWEEN 1 AND 120)');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE revision DROP COLUMN name');
}
