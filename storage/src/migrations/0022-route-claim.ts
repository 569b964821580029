import type { Knex } from 'knex';

/** A publication asks which plan rows have routes: without an index it read every route of the installation. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE INDEX route_claim_id_idx ON route (claim_id)');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP INDEX route_claim_id_idx');
}
