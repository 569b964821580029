import type { Knex } from 'knex';

/** What a picture or a file was before it was replaced everywhere, so that it can be put back; only of whole pictures. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE picture ADD COLUMN former jsonb
  CHECK (former IS NULL OR of_id IS NULL AND original IS NOT NULL AND jsonb_typeof(former->'hash') = 'string');
ALTER TABLE stored_file
  ADD COLUMN version int NOT NULL DEFAULT 1,
  ADD COLUMN must_publish boolean NOT NULL DEFAULT false,
  ADD COLUMN former jsonb CHECK (former IS NULL OR jsonb_typeof(former->'hash') = 'string');
CREATE INDEX ON stored_file (id) WHERE must_publish;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE picture DROP COLUMN former;
ALTER TABLE stored_file DROP COLUMN version, DROP COLUMN must_publish, DROP COLUMN former;`);
}
