import type { Knex } from 'knex';

/** Invitations: links that make a member once. The first of an installation belongs to no portfolio yet. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE invitation (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint REFERENCES portfolio,
  email text CHECK (email = lower(email)), role text NOT NULL CHECK (role IN ('owner', 'publisher', 'author', 'reader')),
  token_hash text NOT NULL UNIQUE, made_at timestamptz NOT NULL, made_by bigint REFERENCES account, expires_at timestamptz NOT NULL,
  used_at timestamptz, used_by bigint REFERENCES account, revoked_at timestamptz, CHECK (num_nonnulls(used_at, revoked_at) <= 1),
  CHECK (portfolio_id IS NOT NULL OR role = 'owner'), UNIQUE (portfolio_id, id));
CREATE INDEX ON invitation (portfolio_id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE invitation');
}
