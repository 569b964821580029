import type { Knex } from 'knex';

/** Where in its page something was found; drafts are looked at once more, so that it is known of all. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE finding ADD COLUMN block_id text; UPDATE draft SET checked_version = 0');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE finding DROP COLUMN block_id');
}
