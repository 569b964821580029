import type { Knex } from 'knex';

/** Private links, what their readers say, and approvals before a release. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE private_link (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200), token_hash text NOT NULL UNIQUE, password_hash text,
  site_id bigint, made_at timestamptz NOT NULL, made_by bigint REFERENCES account, ends_at timestamptz NOT NULL CHECK (ends_at > made_at),
  revoked_at timestamptz, UNIQUE (portfolio_id, id), FOREIGN KEY (portfolio_id, site_id) REFERENCES site (portfolio_id, id));
CREATE TABLE private_link_page (
  portfolio_id bigint NOT NULL, link_id bigint NOT NULL, page_id bigint NOT NULL, PRIMARY KEY (link_id, page_id),
  FOREIGN KEY (portfolio_id, link_id) REFERENCES private_link (portfolio_id, id), FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE TABLE private_link_key (
  key_hash text PRIMARY KEY, link_id bigint NOT NULL REFERENCES private_link, made_at timestamptz NOT NULL);
CREATE TABLE remark (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL, page_id bigint NOT NULL, revision_id bigint NOT NULL,
  link_id bigint NOT NULL, block_id text, kind text NOT NULL CHECK (kind IN ('remark', 'fine', 'change')),
  text text NOT NULL CHECK (length(text) <= 2000), name text NOT NULL CHECK (length(name) BETWEEN 1 AND 100), at timestamptz NOT NULL,
  settled_at timestamptz, settled_by bigint REFERENCES account, CHECK (kind <> 'remark' OR text <> ''),
  FOREIGN KEY (portfolio_id, page_id, revision_id) REFERENCES revision (portfolio_id, page_id, id),
  FOREIGN KEY (portfolio_id, link_id) REFERENCES private_link (portfolio_id, id));
CREATE INDEX ON remark (page_id);
ALTER TABLE site ADD COLUMN approvals smallint NOT NULL DEFAULT 0 CHECK (approvals BETWEEN 0 AND 2);
CREATE TABLE approval (
  portfolio_id bigint NOT NULL, prepared_id bigint NOT NULL, account_id bigint NOT NULL REFERENCES account, version int NOT NULL, at timestamptz NOT NULL,
  PRIMARY KEY (prepared_id, account_id), FOREIGN KEY (portfolio_id, prepared_id) REFERENCES prepared_release (portfolio_id, id) ON DELETE CASCADE);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'DROP TABLE approval, remark, private_link_key, private_link_page, private_link; ALTER TABLE site DROP COLUMN approvals',
  );
}
