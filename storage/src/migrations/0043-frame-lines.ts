import type { Knex } from 'knex';

const SLOTS = ['icons', 'head', 'above', 'below', 'nav'];

/**
 * What stands in each slot of a frame lies on a line that all places share where it is the same (decision 0048): a change
 * of a footer is one stretch more, on however many sites it stands. The table `frame_route`, in which each place had rows
 * of its own, is still written by the version that is running while this one comes, and goes with the next: what it writes
 * there is published once more.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE frame_line (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      UNIQUE (portfolio_id, id)
    );
    CREATE TABLE frame_stretch (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      line_id bigint NOT NULL REFERENCES frame_line ON DELETE CASCADE,
      from_at timestamptz NOT NULL,
      until_at timestamptz CHECK (until_at > from_at),
      parts text[] NOT NULL,
      CONSTRAINT frame_stretch_one EXCLUDE USING gist (line_id WITH =, tstzrange(from_at, until_at, '[)') WITH &&) DEFERRABLE INITIALLY DEFERRED
    );
    CREATE TABLE frame_place (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      host_id bigint NOT NULL REFERENCES host,
      base_path text NOT NULL,
      variant text NOT NULL,
      from_at timestamptz NOT NULL,
      until_at timestamptz CHECK (until_at > from_at),
      ${SLOTS.map((slot) => `${slot} bigint NOT NULL, FOREIGN KEY (portfolio_id, ${slot}) REFERENCES frame_line (portfolio_id, id)`).join(', ')},
      CONSTRAINT frame_place_one EXCLUDE USING gist (host_id WITH =, base_path WITH =, variant WITH =, tstzrange(from_at, until_at, '[)') WITH &&) DEFERRABLE INITIALLY DEFERRED
    );
    CREATE INDEX frame_place_portfolio ON frame_place (portfolio_id);
    DO $$ DECLARE place record; made jsonb; line bigint; slot text; BEGIN
      FOR place IN SELECT DISTINCT portfolio_id, host_id, base_path, variant FROM frame_route LOOP
        made := '{}';
        FOREACH slot IN ARRAY '{${SLOTS.join(',')}}'::text[] LOOP
          INSERT INTO frame_line (portfolio_id) VALUES (place.portfolio_id) RETURNING id INTO line;
          INSERT INTO frame_stretch (line_id, from_at, until_at, parts)
            SELECT line, from_at, until_at, ARRAY(SELECT jsonb_array_elements_text(coalesce(parts -> slot, '[]'))) FROM frame_route f
            WHERE (f.host_id, f.base_path, f.variant) = (place.host_id, place.base_path, place.variant);
          made := made || jsonb_build_object(slot, line);
        END LOOP;
        INSERT INTO frame_place (portfolio_id, host_id, base_path, variant, from_at, until_at, ${SLOTS.join(', ')})
          SELECT place.portfolio_id, place.host_id, place.base_path, place.variant, min(from_at),
            CASE WHEN bool_or(until_at IS NULL) THEN NULL ELSE max(until_at) END, ${SLOTS.map((slot) => `(made ->> '${slot}')::bigint`).join(', ')}
          FROM frame_route f WHERE (f.host_id, f.base_path, f.variant) = (place.host_id, place.base_path, place.variant);
      END LOOP;
    END $$;
    CREATE FUNCTION frames_are_written_anew() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE portfolio SET framed_at = NULL WHERE id IN (SELECT portfolio_id FROM written);
        RETURN NULL;
      END $$;
    CREATE TRIGGER frame_route_made AFTER INSERT ON frame_route REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION frames_are_written_anew();
    CREATE TRIGGER frame_route_changed AFTER UPDATE ON frame_route REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION frames_are_written_anew();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TRIGGER frame_route_made ON frame_route;
    DROP TRIGGER frame_route_changed ON frame_route;
    DROP FUNCTION frames_are_written_anew();
    UPDATE portfolio SET framed_at = NULL WHERE id IN (SELECT portfolio_id FROM frame_place);
    DROP TABLE frame_place, frame_stretch, frame_line;
  `);
}
