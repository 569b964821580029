import type { Knex } from 'knex';

/** What was answered to a remark: by somebody who works here, or by a reader of the link under the name they give. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE remark_answer (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  portfolio_id bigint NOT NULL REFERENCES portfolio,
  remark_id bigint NOT NULL REFERENCES remark ON DELETE CASCADE,
  account_id bigint REFERENCES account ON DELETE SET NULL,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  is_ours boolean NOT NULL,
  text text NOT NULL CHECK (length(text) BETWEEN 1 AND 2000),
  at timestamptz NOT NULL);
CREATE INDEX remark_answer_of ON remark_answer (remark_id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE remark_answer');
}
