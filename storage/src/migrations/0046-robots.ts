import type { Knex } from 'knex';

/** Few revisions ask anything of search engines: the register finds them without reading the others. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    "CREATE INDEX revision_robots ON revision (portfolio_id, id) WHERE document #> '{metadata,robots}' IS NOT NULL",
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP INDEX revision_robots');
}
