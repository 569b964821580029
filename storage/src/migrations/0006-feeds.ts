import type { Knex } from 'knex';

/** Calendar feeds and named views. Of a feed's private address only the hash is kept. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE calendar_feed (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio, account_id bigint NOT NULL REFERENCES account,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200), token_hash text NOT NULL UNIQUE, parts jsonb NOT NULL, made_at timestamptz NOT NULL, UNIQUE (portfolio_id, id));
CREATE TABLE named_view (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio,
  account_id bigint NOT NULL REFERENCES account, is_shared boolean NOT NULL DEFAULT false,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 100), parts jsonb NOT NULL, made_at timestamptz NOT NULL,
  UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, account_id, name));`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE named_view; DROP TABLE calendar_feed');
}
