import type { Knex } from 'knex';

/** What the verifier found, and what it asks the edges: they answer from the tables in their memory. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE verification (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio, at timestamptz NOT NULL,
  checked jsonb NOT NULL, differences jsonb NOT NULL CHECK (jsonb_typeof(differences) = 'array'));
CREATE INDEX ON verification (portfolio_id, at);
CREATE TABLE edge_question (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, asked_at timestamptz NOT NULL, questions jsonb NOT NULL CHECK (jsonb_typeof(questions) = 'array'));
CREATE TABLE edge_answer (
  question_id bigint NOT NULL REFERENCES edge_question ON DELETE CASCADE, edge_id text NOT NULL, versions jsonb NOT NULL, answers jsonb NOT NULL,
  PRIMARY KEY (question_id, edge_id));`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE edge_answer; DROP TABLE edge_question; DROP TABLE verification');
}
