import type { Knex } from 'knex';

/** Tasks of pages, and mail that is to go out or went. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE task (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL, page_id bigint NOT NULL,
  text text NOT NULL CHECK (length(text) BETWEEN 1 AND 500), person_id bigint REFERENCES account, due_day date,
  done_at timestamptz, done_by bigint REFERENCES account, CHECK (done_by IS NULL OR done_at IS NOT NULL),
  version int NOT NULL DEFAULT 1, made_at timestamptz NOT NULL, made_by bigint REFERENCES account, reminded_on date,
  UNIQUE (portfolio_id, id), FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE INDEX ON task (page_id);
CREATE INDEX ON task (portfolio_id) WHERE done_at IS NULL;
CREATE TABLE mail (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, recipient text NOT NULL, subject text NOT NULL, body text NOT NULL,
  made_at timestamptz NOT NULL, sent_at timestamptz, tries int NOT NULL DEFAULT 0, failure text);
CREATE INDEX ON mail (id) WHERE sent_at IS NULL;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE mail; DROP TABLE task');
}
