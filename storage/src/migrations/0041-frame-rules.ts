import type { Knex } from 'knex';

/**
 * What is said of where parts stand can be about domains, paths, labels, roles and single pages too (decision 0046). Pages
 * with something of their own around them are kept apart from what it is: a change of it touches no row of a page.
 * Labels and roles change with no release: whose frame may be another then is made anew by the worker.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP INDEX stock_item_standing;
    CREATE UNIQUE INDEX stock_item_standing ON stock_item (portfolio_id, coalesce(site_id, 0), coalesce(key, '')) WHERE kind = 'standing' AND removed_at IS NULL;
    ALTER TABLE stock_item DROP CONSTRAINT stock_item_check, DROP CONSTRAINT stock_item_portfolio_id_kind_key_key,
      ADD CONSTRAINT stock_item_check CHECK (kind = 'standing' OR (kind = 'theme') = (key IS NOT NULL));
    CREATE UNIQUE INDEX stock_item_theme ON stock_item (portfolio_id, key) WHERE kind = 'theme';
    ALTER TABLE stock_item ADD CONSTRAINT stock_item_rule_check CHECK (kind <> 'standing' OR key IS NULL
      OR (key ~ '^(domain|path|label|role|page):.' AND (key LIKE 'path:%') = (site_id IS NOT NULL)));
    CREATE INDEX revision_framed ON revision (portfolio_id, id) WHERE document #> '{metadata,frame}' IS NOT NULL;
    ALTER TABLE frame_route ADD COLUMN variant text NOT NULL DEFAULT '';
    DO $$ DECLARE old text; BEGIN
      SELECT conname INTO old FROM pg_constraint WHERE conrelid = 'frame_route'::regclass AND contype = 'x';
      EXECUTE format('ALTER TABLE frame_route DROP CONSTRAINT %I', old);
    END $$;
    ALTER TABLE frame_route ADD CONSTRAINT frame_route_one EXCLUDE USING gist (host_id WITH =, base_path WITH =, variant WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED;
    CREATE TABLE framed_page (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      host_id bigint NOT NULL REFERENCES host,
      site_id bigint NOT NULL,
      page_id bigint NOT NULL,
      from_at timestamptz NOT NULL,
      until_at timestamptz,
      during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED,
      variant text NOT NULL CHECK (variant <> ''),
      CHECK (NOT isempty(during)),
      FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id) ON DELETE CASCADE,
      EXCLUDE USING gist (host_id WITH =, page_id WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED
    );
    CREATE INDEX framed_page_portfolio ON framed_page (portfolio_id, page_id);
    CREATE TABLE frame_due (
      page_id bigint PRIMARY KEY REFERENCES page (id) ON DELETE CASCADE,
      portfolio_id bigint NOT NULL REFERENCES portfolio,
      due_at timestamptz NOT NULL DEFAULT clock_timestamp()
    );
    CREATE FUNCTION frame_is_due(page bigint, portfolio bigint, rules text) RETURNS void LANGUAGE sql AS $$
      INSERT INTO frame_due (page_id, portfolio_id) SELECT p.id, p.portfolio_id FROM page p WHERE p.id = page
        AND EXISTS (SELECT FROM stock_item i WHERE i.portfolio_id = portfolio AND i.kind = 'standing' AND i.key LIKE rules)
      ON CONFLICT (page_id) DO UPDATE SET due_at = clock_timestamp()
    $$;
    CREATE FUNCTION label_frames_page() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        PERFORM frame_is_due(one.page_id, one.portfolio_id, 'label:%') FROM (SELECT coalesce(NEW.page_id, OLD.page_id) AS page_id, coalesce(NEW.portfolio_id, OLD.portfolio_id) AS portfolio_id) one;
        RETURN NULL;
      END $$;
    CREATE TRIGGER label_frames_page AFTER INSERT OR DELETE ON page_label FOR EACH ROW EXECUTE FUNCTION label_frames_page();
    CREATE FUNCTION role_frames_page() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        PERFORM frame_is_due(NEW.id, NEW.portfolio_id, 'role:%');
        RETURN NULL;
      END $$;
    CREATE TRIGGER role_frames_page AFTER UPDATE OF role ON page FOR EACH ROW WHEN (OLD.role <> NEW.role) EXECUTE FUNCTION role_frames_page();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TRIGGER role_frames_page ON page;
    DROP TRIGGER label_frames_page ON page_label;
    DROP FUNCTION role_frames_page();
    DROP FUNCTION label_frames_page();
    DROP FUNCTION frame_is_due(bigint, bigint, text);
    DROP INDEX revision_framed;
    DROP TABLE frame_due;
    DROP TABLE framed_page;
    DELETE FROM frame_route WHERE variant <> '';
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE frame_route DROP CONSTRAINT frame_route_one, DROP COLUMN variant,
      ADD EXCLUDE USING gist (host_id WITH =, base_path WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED;
    ALTER TABLE stock_item DROP CONSTRAINT stock_item_rule_check;
    DROP INDEX stock_item_standing, stock_item_theme;
    ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
    DELETE FROM release_stock WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'standing' AND key IS NOT NULL);
    DELETE FROM stock_period WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'standing' AND key IS NOT NULL);
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
    DELETE FROM stock_revision WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'standing' AND key IS NOT NULL);
    DELETE FROM stock_item WHERE kind = 'standing' AND key IS NOT NULL;
    ALTER TABLE stock_item DROP CONSTRAINT stock_item_check, ADD CONSTRAINT stock_item_check CHECK ((kind = 'theme') = (key IS NOT NULL)),
      ADD CONSTRAINT stock_item_portfolio_id_kind_key_key UNIQUE (portfolio_id, kind, key);
    CREATE UNIQUE INDEX stock_item_standing ON stock_item (portfolio_id, coalesce(site_id, 0)) WHERE kind = 'standing' AND removed_at IS NULL;
  `);
}
