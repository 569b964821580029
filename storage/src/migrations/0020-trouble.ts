import type { Knex } from 'knex';

/** What goes wrong and where; pages an edge can't show as they should be; bytes of files that were deleted or replaced. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE trouble (
  place text NOT NULL, kind text NOT NULL CHECK (kind IN ('disk', 'damaged', 'counts', 'clock', 'publishing')),
  words text NOT NULL, portfolio_id bigint REFERENCES portfolio ON DELETE CASCADE, since timestamptz NOT NULL, PRIMARY KEY (place, kind));
CREATE TABLE edge_lack (
  edge_id text NOT NULL REFERENCES edge ON DELETE CASCADE, artifact text NOT NULL, noted_at timestamptz NOT NULL, PRIMARY KEY (edge_id, artifact));
CREATE INDEX ON route (artifact);
CREATE TABLE dropped_blob (hash text PRIMARY KEY, at timestamptz NOT NULL);
CREATE FUNCTION note_dropped() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO dropped_blob (hash, at)
    SELECT hash, now() FROM (
      SELECT to_jsonb(OLD) ->> 'hash' AS hash UNION SELECT to_jsonb(OLD) #>> '{former,hash}'
      UNION SELECT v ->> 'hash' FROM jsonb_array_elements(coalesce(to_jsonb(OLD) -> 'variants', '[]')) v
      UNION SELECT v ->> 'avif' FROM jsonb_array_elements(coalesce(to_jsonb(OLD) -> 'variants', '[]')) v) h
    WHERE hash IS NOT NULL ON CONFLICT (hash) DO UPDATE SET at = excluded.at;
  RETURN NULL;
END $$;
CREATE TRIGGER note_dropped AFTER DELETE OR UPDATE OF variants ON picture FOR EACH ROW EXECUTE FUNCTION note_dropped();
CREATE TRIGGER note_dropped AFTER DELETE OR UPDATE OF hash, former ON stored_file FOR EACH ROW EXECUTE FUNCTION note_dropped();`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
DROP TRIGGER note_dropped ON picture; DROP TRIGGER note_dropped ON stored_file; DROP FUNCTION note_dropped;
DROP INDEX route_artifact_idx; DROP TABLE edge_lack, trouble, dropped_blob`);
}
