import type { Knex } from 'knex';

/** The bin: being in it is a period, so that *as of* stays true; what is deleted for ever leaves its tombstone. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE bin_stay (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL, page_id bigint NOT NULL,
  from_at timestamptz NOT NULL, until_at timestamptz CHECK (until_at > from_at),
  during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED,
  opened_by bigint NOT NULL, closed_by bigint, CHECK ((until_at IS NULL) = (closed_by IS NULL)),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id),
  FOREIGN KEY (portfolio_id, opened_by) REFERENCES release (portfolio_id, id),
  FOREIGN KEY (portfolio_id, closed_by) REFERENCES release (portfolio_id, id),
  EXCLUDE USING gist (page_id WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED);
CREATE INDEX ON bin_stay (portfolio_id);
CREATE INDEX ON bin_stay (opened_by);
CREATE INDEX ON bin_stay (closed_by);
ALTER TABLE page ADD COLUMN deleted_at timestamptz, ADD COLUMN deleted_by bigint REFERENCES account;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE page DROP COLUMN deleted_at, DROP COLUMN deleted_by; DROP TABLE bin_stay');
}
