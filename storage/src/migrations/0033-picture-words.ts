import type { Knex } from 'knex';

/** Descriptions that pictures had before another file took their place: where a page says one of them, visitors get that of now. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("ALTER TABLE picture ADD COLUMN former_words text[] NOT NULL DEFAULT '{}'");
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE picture DROP COLUMN former_words');
}
