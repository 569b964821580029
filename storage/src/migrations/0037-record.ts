import type { Knex } from 'knex';

/** The record of who did what is read by portfolio, the newest first. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE INDEX audit_record ON audit (portfolio_id, id DESC)');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP INDEX audit_record');
}
