import type { Knex } from 'knex';

/**
 * Words between whoever prepared a release and those who approve it; how each person wants their mail; what waits for the one
 * mail of a day; and of which ends somebody was told.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE prepared_word (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  portfolio_id bigint NOT NULL REFERENCES portfolio,
  prepared_id bigint NOT NULL REFERENCES prepared_release ON DELETE CASCADE,
  account_id bigint REFERENCES account ON DELETE SET NULL,
  at timestamptz NOT NULL,
  text text NOT NULL CHECK (length(text) BETWEEN 1 AND 2000),
  version int NOT NULL,
  sends_back boolean NOT NULL);
CREATE INDEX prepared_word_of ON prepared_word (prepared_id);
ALTER TABLE account ADD COLUMN mail_wish text NOT NULL DEFAULT 'at-once' CHECK (mail_wish IN ('at-once', 'daily'));
ALTER TABLE mail ADD COLUMN path text;
CREATE TABLE mail_line (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  portfolio_id bigint NOT NULL REFERENCES portfolio,
  account_id bigint NOT NULL REFERENCES account ON DELETE CASCADE,
  at timestamptz NOT NULL,
  text text NOT NULL,
  path text NOT NULL);
CREATE INDEX mail_line_at ON mail_line (at);
CREATE TABLE end_told (page_id bigint NOT NULL REFERENCES page, until_at timestamptz NOT NULL, PRIMARY KEY (page_id, until_at));`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
DROP TABLE end_told, mail_line, prepared_word;
ALTER TABLE mail DROP COLUMN path;
ALTER TABLE account DROP COLUMN mail_wish;`);
}
