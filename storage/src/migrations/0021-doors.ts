import type { Knex } from 'knex';

/** Sessions that can be seen and ended, second factors, new passwords, and consent to hosts below a domain of somebody else. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE session ADD COLUMN id bigint GENERATED ALWAYS AS IDENTITY UNIQUE, ADD COLUMN seen_at timestamptz,
  ADD COLUMN address text, ADD COLUMN agent text, ADD COLUMN factor_at timestamptz;
CREATE TABLE sign_in_place (
  account_id bigint NOT NULL REFERENCES account ON DELETE CASCADE, address text NOT NULL, last_at timestamptz NOT NULL,
  PRIMARY KEY (account_id, address));
ALTER TABLE account ADD COLUMN totp_secret text, ADD COLUMN totp_at timestamptz, ADD COLUMN totp_step bigint NOT NULL DEFAULT 0,
  ADD CHECK (totp_at IS NULL OR totp_secret IS NOT NULL);
CREATE TABLE recovery_code (
  account_id bigint NOT NULL REFERENCES account ON DELETE CASCADE, code_hash text NOT NULL, PRIMARY KEY (account_id, code_hash));
CREATE TABLE password_reset (
  token_hash text PRIMARY KEY, account_id bigint NOT NULL REFERENCES account ON DELETE CASCADE, made_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL, used_at timestamptz);
CREATE INDEX ON password_reset (account_id);
ALTER TABLE approval ADD COLUMN content text NOT NULL DEFAULT '';
ALTER TABLE portfolio ADD COLUMN wants_factor boolean NOT NULL DEFAULT false;
CREATE TABLE host_consent (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio, host text NOT NULL,
  token_hash text NOT NULL UNIQUE, made_at timestamptz NOT NULL, made_by bigint REFERENCES account, used_at timestamptz);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE approval DROP COLUMN content;
DROP TABLE host_consent, password_reset, recovery_code, sign_in_place;
ALTER TABLE portfolio DROP COLUMN wants_factor;
ALTER TABLE account DROP COLUMN totp_secret, DROP COLUMN totp_at, DROP COLUMN totp_step;
ALTER TABLE session DROP COLUMN id, DROP COLUMN seen_at, DROP COLUMN address, DROP COLUMN agent, DROP COLUMN factor_at;`);
}
