import type { Knex } from 'knex';

/** Pictures that people bring in: their originals, how far their sizes are made, crops of them; files that are no pictures. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE picture
  ADD COLUMN state text NOT NULL DEFAULT 'ready' CHECK (state IN ('waiting', 'ready', 'failed')),
  ADD COLUMN progress real NOT NULL DEFAULT 1 CHECK (progress BETWEEN 0 AND 1),
  ADD COLUMN failure text, ADD COLUMN failures smallint NOT NULL DEFAULT 0,
  ADD COLUMN original text, ADD COLUMN original_bytes bigint, ADD COLUMN format text,
  ADD COLUMN version int NOT NULL DEFAULT 1,
  ADD COLUMN labels text[] NOT NULL DEFAULT '{}',
  ADD COLUMN look text,
  ADD COLUMN purpose text NOT NULL DEFAULT 'page' CHECK (purpose IN ('page', 'share', 'icon')),
  ADD COLUMN of_id bigint, ADD COLUMN crop jsonb,
  ADD COLUMN must_publish boolean NOT NULL DEFAULT false,
  ADD COLUMN created_at timestamptz, ADD COLUMN created_by bigint REFERENCES account,
  ADD CHECK ((state = 'failed') = (failure IS NOT NULL)),
  ADD CHECK (state <> 'waiting' OR original IS NOT NULL),
  ADD CHECK ((of_id IS NULL) = (crop IS NULL AND purpose = 'page')),
  ADD FOREIGN KEY (portfolio_id, of_id) REFERENCES picture (portfolio_id, id);
CREATE INDEX ON picture (of_id) WHERE of_id IS NOT NULL;
CREATE INDEX ON picture (id) WHERE state = 'waiting' OR must_publish;
CREATE UNIQUE INDEX ON picture (portfolio_id, original) WHERE of_id IS NULL;
CREATE TABLE stored_file (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, portfolio_id bigint NOT NULL REFERENCES portfolio,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200), hash text NOT NULL, ending text NOT NULL CHECK (ending IN ('pdf', 'mp4', 'webm', 'ics', 'csv', 'txt', 'woff2')),
  bytes bigint NOT NULL CHECK (bytes > 0), created_at timestamptz NOT NULL, created_by bigint REFERENCES account,
  UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, hash));
ALTER TABLE site
  ADD COLUMN version int NOT NULL DEFAULT 1,
  ADD COLUMN icon_id bigint, ADD COLUMN share_id bigint,
  ADD FOREIGN KEY (portfolio_id, icon_id) REFERENCES picture (portfolio_id, id),
  ADD FOREIGN KEY (portfolio_id, share_id) REFERENCES picture (portfolio_id, id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE site DROP COLUMN version, DROP COLUMN icon_id, DROP COLUMN share_id;
DROP TABLE stored_file;
DELETE FROM picture WHERE of_id IS NOT NULL OR state <> 'ready';
ALTER TABLE picture DROP COLUMN state, DROP COLUMN progress, DROP COLUMN failure, DROP COLUMN failures, DROP COLUMN original,
  DROP COLUMN original_bytes, DROP COLUMN format, DROP COLUMN version, DROP COLUMN labels, DROP COLUMN look, DROP COLUMN purpose,
  DROP COLUMN of_id, DROP COLUMN crop, DROP COLUMN must_publish, DROP COLUMN created_at, DROP COLUMN created_by;`);
}
