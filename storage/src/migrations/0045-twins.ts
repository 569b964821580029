import type { Knex } from 'knex';

/**
 * A picture or file may take the place of another from the shelf: both have the same bytes then. What is brought in again is
 * still known by the one that had them first.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE picture ADD COLUMN is_twin boolean NOT NULL DEFAULT false;
    DROP INDEX picture_portfolio_id_original_idx;
    CREATE UNIQUE INDEX picture_original ON picture (portfolio_id, original) WHERE of_id IS NULL AND NOT is_twin;
    ALTER TABLE stored_file ADD COLUMN is_twin boolean NOT NULL DEFAULT false;
    ALTER TABLE stored_file DROP CONSTRAINT stored_file_portfolio_id_hash_key;
    CREATE UNIQUE INDEX stored_file_hash ON stored_file (portfolio_id, hash) WHERE NOT is_twin;
  `);
}

/** Twins go back to the bytes they had before; with none of those that is not possible. */
export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    UPDATE picture SET original = former ->> 'hash', original_bytes = (former ->> 'bytes')::bigint, format = former ->> 'format',
      width = (former ->> 'width')::int, height = (former ->> 'height')::int, former = NULL, state = 'waiting', progress = 0 WHERE is_twin;
    UPDATE stored_file SET hash = former ->> 'hash', bytes = (former ->> 'bytes')::bigint, former = NULL, must_publish = true WHERE is_twin;
    DROP INDEX stored_file_hash;
    ALTER TABLE stored_file DROP COLUMN is_twin, ADD CONSTRAINT stored_file_portfolio_id_hash_key UNIQUE (portfolio_id, hash);
    DROP INDEX picture_original;
    ALTER TABLE picture DROP COLUMN is_twin;
    CREATE UNIQUE INDEX picture_portfolio_id_original_idx ON picture (portfolio_id, original) WHERE of_id IS NULL;
  `);
}
