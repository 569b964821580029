import type { Knex } from 'knex';

/**
 * What was found keeps its code, and what its words need; words are made when somebody reads. Rows of the version before
 * have their words alone, until their page is looked at again.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE finding ADD COLUMN code text, ADD COLUMN params jsonb');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE finding DROP COLUMN code, DROP COLUMN params');
}
