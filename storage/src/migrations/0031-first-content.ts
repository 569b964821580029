import type { Knex } from 'knex';

/** Whether first content that still asks to be replaced holds a release on a site back, or is only named. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    "ALTER TABLE site ADD COLUMN first_content text NOT NULL DEFAULT 'blocks' CHECK (first_content IN ('blocks', 'worth-fixing'))",
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE site DROP COLUMN first_content');
}
