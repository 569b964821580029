import type { Knex } from 'knex';

/**
 * What stands around pages lies in parts of its own, with routes of their own (decision 0045). Hosts have a second
 * version, so that an edge reads no page anew where only a frame is another. Portfolios that were published before are
 * published once more, with pages apart from their frames.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE part (
      hash text PRIMARY KEY CHECK (hash ~ '^[0-9a-f]{64}$'),
      html text NOT NULL,
      files text[] NOT NULL,
      made_at timestamptz NOT NULL
    );
    CREATE TABLE frame_route (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      host_id bigint NOT NULL REFERENCES host,
      base_path text NOT NULL,
      from_at timestamptz NOT NULL,
      until_at timestamptz,
      during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED,
      parts jsonb NOT NULL CHECK (jsonb_typeof(parts) = 'object'),
      CHECK (NOT isempty(during)),
      EXCLUDE USING gist (host_id WITH =, base_path WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED
    );
    CREATE INDEX frame_route_portfolio ON frame_route (portfolio_id);
    ALTER TABLE host ADD COLUMN frame_version bigint NOT NULL DEFAULT 0;
    ALTER TABLE release_host ADD COLUMN frame_version bigint NOT NULL DEFAULT 0;
    ALTER TABLE edge_host ADD COLUMN frame_version bigint NOT NULL DEFAULT 0;
    ALTER TABLE portfolio ADD COLUMN framed_at timestamptz;
    ALTER TABLE portfolio ALTER COLUMN framed_at SET DEFAULT now();
    ALTER TABLE thumbnail ADD COLUMN page text, ADD COLUMN page_id bigint, ADD COLUMN parts jsonb;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE thumbnail DROP COLUMN parts, DROP COLUMN page_id, DROP COLUMN page;
    ALTER TABLE portfolio DROP COLUMN framed_at;
    ALTER TABLE edge_host DROP COLUMN frame_version;
    ALTER TABLE release_host DROP COLUMN frame_version;
    ALTER TABLE host DROP COLUMN frame_version;
    DROP TABLE frame_route;
    DROP TABLE part;
  `);
}
