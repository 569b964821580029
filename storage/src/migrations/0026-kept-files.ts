import type { Knex } from 'knex';

/**
 * Which files a rendered page may ask for, so that what nothing asks for any more is closed to visitors; and for how
 * many days a portfolio keeps what visitors got, for ever where it says nothing.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE render ADD COLUMN files text[], ADD COLUMN made_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE portfolio ADD COLUMN keep_days integer CHECK (keep_days BETWEEN 30 AND 36500);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE render DROP COLUMN files, DROP COLUMN made_at;
ALTER TABLE portfolio DROP COLUMN keep_days;`);
}
