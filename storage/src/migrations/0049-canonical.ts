import type { Knex } from 'knex';

/** Revisions that name another page for search engines are few, and asked for with the register. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    "CREATE INDEX revision_canonical ON revision (portfolio_id, id) WHERE document #> '{metadata,canonical}' IS NOT NULL",
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP INDEX revision_canonical');
}
