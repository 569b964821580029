import type { Knex } from 'knex';

/**
 * The words of drafts, so that pages are found by what they say: every text but names of types and identities. The first
 * 200,000 characters count, for a tsvector holds at most a megabyte.
 */
const TEXTS =
  'lax $.** ? (@.type() == "object").keyvalue() ? (@.key != "type" && @.key != "id" && @.key != "kind" && @.value.type() == "string").value';

export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `ALTER TABLE draft ADD COLUMN words tsvector GENERATED ALWAYS AS
      (to_tsvector('simple'::regconfig, left(jsonb_path_query_array(document, '${TEXTS.replaceAll('?', '\\?')}')::text, 200000))) STORED`,
  );
  await knex.raw('CREATE INDEX ON draft USING gin (words)');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE draft DROP COLUMN words');
}
