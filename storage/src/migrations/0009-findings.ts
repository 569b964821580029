import type { Knex } from 'knex';

/**
 * What checks found in a page: in its draft, and in what is planned for visitors. A draft whose newest version has not
 * been checked yet is found through the index.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE finding (
  portfolio_id bigint NOT NULL, page_id bigint NOT NULL, source text NOT NULL CHECK (source IN ('draft', 'plan')), ordinal smallint NOT NULL,
  severity text NOT NULL CHECK (severity IN ('blocks', 'worth-fixing')), message text NOT NULL, mend text NOT NULL,
  PRIMARY KEY (page_id, source, ordinal), FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id) ON DELETE CASCADE);
CREATE INDEX ON finding (portfolio_id);
ALTER TABLE draft ADD COLUMN checked_version int NOT NULL DEFAULT 0;
CREATE INDEX ON draft (page_id) WHERE checked_version <> version;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE finding; ALTER TABLE draft DROP COLUMN checked_version');
}
