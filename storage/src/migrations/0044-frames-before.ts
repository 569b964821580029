import type { Knex } from 'knex';

/**
 * What was planned of frames before a release, kept for as long as it says what visitors got until that release was out
 * (`heart/publishing/before.ts`). The rows each place had of its own until lines were shared (0043) are read by no version
 * that can still run beside this one.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE frame_route;
    DROP FUNCTION frames_are_written_anew();
    CREATE TABLE frame_before (
      release_id bigint NOT NULL REFERENCES release ON DELETE CASCADE,
      subject text NOT NULL CHECK (subject ~ '^(line|place|page) '),
      held jsonb NOT NULL CHECK (jsonb_typeof(held) = 'array'),
      parts text[] NOT NULL,
      PRIMARY KEY (release_id, subject)
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE frame_before;
    CREATE TABLE frame_route (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      host_id bigint NOT NULL REFERENCES host,
      base_path text NOT NULL,
      variant text NOT NULL DEFAULT '',
      from_at timestamptz NOT NULL,
      until_at timestamptz,
      during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED,
      parts jsonb NOT NULL,
      CONSTRAINT frame_route_one EXCLUDE USING gist (host_id WITH =, base_path WITH =, variant WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED
    );
    CREATE INDEX frame_route_portfolio ON frame_route (portfolio_id);
    CREATE FUNCTION frames_are_written_anew() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE portfolio SET framed_at = NULL WHERE id IN (SELECT portfolio_id FROM written);
        RETURN NULL;
      END $$;
    CREATE TRIGGER frame_route_made AFTER INSERT ON frame_route REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION frames_are_written_anew();
    CREATE TRIGGER frame_route_changed AFTER UPDATE ON frame_route REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION frames_are_written_anew();
  `);
}
