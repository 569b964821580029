import type { Knex } from 'knex';

/** What a release did is kept as codes with what they were told; its words are made when somebody reads. The version before knows the words alone. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE release ADD COLUMN parts jsonb');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE release DROP COLUMN parts');
}
