import type { Knex } from 'knex';

/** What somebody wrote and another one’s text took the place of, until they have seen it. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE overridden (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  portfolio_id integer NOT NULL REFERENCES portfolio ON DELETE CASCADE,
  page_id integer NOT NULL REFERENCES page ON DELETE CASCADE,
  account_id integer NOT NULL REFERENCES account ON DELETE CASCADE,
  by_id integer REFERENCES account ON DELETE SET NULL,
  at timestamptz NOT NULL,
  block_id text NOT NULL,
  was jsonb NOT NULL,
  CHECK (account_id IS DISTINCT FROM by_id)
);
CREATE INDEX overridden_page ON overridden (page_id, account_id);
CREATE INDEX overridden_at ON overridden (at);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE overridden');
}
