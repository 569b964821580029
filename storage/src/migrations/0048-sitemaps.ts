import type { Knex } from 'knex';

/**
 * Routes know from when on their page asks search engines to leave it out: edges make sitemaps of what they hold
 * (decision 0051). Until now only pages said so, by their own documents.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`ALTER TABLE route ADD COLUMN hidden_from timestamptz;
    UPDATE route t SET hidden_from = CASE WHEN (r.document #> '{metadata,robots,noindex}')::text = 'true' THEN to_timestamp(0)
      ELSE to_timestamp((r.document #>> '{metadata,robots,unavailableAfter,at}')::float8 / 1000) END
    FROM revision r WHERE r.id = t.revision_id AND t.layer = 'page' AND r.document #> '{metadata,robots}' IS NOT NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE route DROP COLUMN hidden_from');
}
