import type { Knex } from 'knex';

/** Prepared releases, templates, and what a campaign is for. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE prepared_release (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200), changes jsonb NOT NULL CHECK (jsonb_typeof(changes) = 'array'),
  version int NOT NULL DEFAULT 1, made_at timestamptz NOT NULL, made_by bigint REFERENCES account,
  changed_at timestamptz NOT NULL, changed_by bigint REFERENCES account,
  release_id bigint, dropped_at timestamptz, CHECK (num_nonnulls(release_id, dropped_at) <= 1),
  UNIQUE (portfolio_id, id), FOREIGN KEY (portfolio_id, release_id) REFERENCES release (portfolio_id, id));
CREATE INDEX ON prepared_release (portfolio_id) WHERE release_id IS NULL AND dropped_at IS NULL;
CREATE TABLE prepared_page (
  portfolio_id bigint NOT NULL, prepared_id bigint NOT NULL, page_id bigint NOT NULL, PRIMARY KEY (prepared_id, page_id),
  FOREIGN KEY (portfolio_id, prepared_id) REFERENCES prepared_release (portfolio_id, id) ON DELETE CASCADE,
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE INDEX ON prepared_page (page_id);
ALTER TABLE page ADD COLUMN is_template boolean NOT NULL DEFAULT false, ADD COLUMN template_notes text NOT NULL DEFAULT '' CHECK (length(template_notes) <= 2000),
  ADD COLUMN template_id bigint, ADD FOREIGN KEY (portfolio_id, template_id) REFERENCES page (portfolio_id, id);
CREATE INDEX ON page (template_id);
ALTER TABLE campaign ADD COLUMN purpose text NOT NULL DEFAULT '' CHECK (length(purpose) <= 2000), ADD COLUMN from_day date, ADD COLUMN until_day date CHECK (until_day >= from_day),
  ADD COLUMN owner_id bigint REFERENCES account, ADD COLUMN version int NOT NULL DEFAULT 1, ADD CHECK (length(name) BETWEEN 1 AND 200);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`ALTER TABLE campaign DROP COLUMN purpose, DROP COLUMN from_day, DROP COLUMN until_day, DROP COLUMN owner_id, DROP COLUMN version;
ALTER TABLE page DROP COLUMN is_template, DROP COLUMN template_notes, DROP COLUMN template_id; DROP TABLE prepared_page; DROP TABLE prepared_release`);
}
