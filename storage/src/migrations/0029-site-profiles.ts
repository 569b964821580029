import type { Knex } from 'knex';

const UNIQUE = "CREATE UNIQUE INDEX stock_item_profile ON stock_item (site_id) WHERE kind = 'profile'";

/**
 * What a site is (its name for visitors, language, theme, icon, picture for sharing) is kept in the stock, over time:
 * each site has a profile from its first day on, made with it. The columns `brand`, `theme` and `language` of a site say
 * what it is made with and nothing later; those and `icon_id`, `share_id`, `must_publish`, `version` are read no more. They
 * stay for the version that is running while this one comes, and go with the next. That one does not know what a profile
 * is: until then profiles are removed at `infinity`, which is never, so that it leaves them out.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, DROP CONSTRAINT stock_item_site_check,
  ADD CONSTRAINT stock_item_kind_check CHECK (kind IN ('theme', 'piece', 'values', 'css', 'profile')),
  ADD CONSTRAINT stock_item_site_check CHECK (CASE WHEN kind IN ('css', 'profile') THEN site_id IS NOT NULL WHEN kind = 'values' THEN true ELSE site_id IS NULL END);
${UNIQUE};
CREATE FUNCTION site_profile(site site) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT jsonb_build_object('brand', site.brand, 'language', site.language, 'theme', site.theme,
    'iconId', (SELECT of_id FROM picture WHERE id = site.icon_id), 'shareId', (SELECT of_id FROM picture WHERE id = site.share_id)) $$;
CREATE FUNCTION begin_profile(made site, at timestamptz) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  item bigint;
  revision bigint;
BEGIN
  INSERT INTO stock_item (portfolio_id, kind, name, site_id, draft, changed_at, removed_at)
    VALUES (made.portfolio_id, 'profile', made.name, made.id, site_profile(made), at, 'infinity') RETURNING id INTO item;
  INSERT INTO stock_revision (portfolio_id, item_id, number, content, created_at)
    VALUES (made.portfolio_id, item, 1, site_profile(made), at) RETURNING id INTO revision;
  INSERT INTO stock_period (portfolio_id, item_id, revision_id, from_at) VALUES (made.portfolio_id, item, revision, at);
END $$;
ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
SELECT begin_profile(s, coalesce((SELECT min(from_at) FROM site_address a WHERE a.site_id = s.id), now())) FROM site s;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
CREATE FUNCTION site_is_made() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  said text := nullif(current_setting('domatium.instant', true), '');
BEGIN
  IF said IS NULL THEN PERFORM set_config('domatium.instant', now()::text, true); END IF;
  PERFORM begin_profile(NEW, coalesce(said::timestamptz, now()));
  IF said IS NULL THEN PERFORM set_config('domatium.instant', '', true); END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER profile_begins AFTER INSERT ON site FOR EACH ROW EXECUTE FUNCTION site_is_made();
CREATE FUNCTION profile_at(site bigint, at timestamptz) RETURNS jsonb LANGUAGE sql STABLE AS $$
  SELECT r.content FROM stock_item i JOIN stock_period q ON q.item_id = i.id JOIN stock_revision r ON r.id = q.revision_id
  WHERE i.kind = 'profile' AND i.site_id = site ORDER BY (q.during @> at) DESC, q.from_at LIMIT 1 $$;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
DROP TRIGGER profile_begins ON site;
DROP FUNCTION profile_at; DROP FUNCTION site_is_made; DROP FUNCTION begin_profile; DROP FUNCTION site_profile;
ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
DELETE FROM stock_period WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'profile');
ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
DELETE FROM release_stock WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'profile');
DELETE FROM prepared_item WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'profile');
DELETE FROM stock_revision WHERE item_id IN (SELECT id FROM stock_item WHERE kind = 'profile');
DELETE FROM stock_item WHERE kind = 'profile';
DROP INDEX stock_item_profile;
ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, DROP CONSTRAINT stock_item_site_check,
  ADD CONSTRAINT stock_item_kind_check CHECK (kind IN ('theme', 'piece', 'values', 'css')),
  ADD CONSTRAINT stock_item_site_check CHECK (CASE kind WHEN 'css' THEN site_id IS NOT NULL WHEN 'values' THEN true ELSE site_id IS NULL END);`);
}
