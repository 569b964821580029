import type { Knex } from 'knex';

/** How often a portfolio was published: a publication writes only where none came between since it read. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE portfolio ADD COLUMN publication bigint NOT NULL DEFAULT 0');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE portfolio DROP COLUMN publication');
}
