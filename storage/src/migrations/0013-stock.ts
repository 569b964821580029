import type { Knex } from 'knex';

const identity = 'bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY';

/** What many pages use: themes, pieces, shared values. Each has a draft, revisions, and periods in which a revision holds. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE stock_item (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, kind text NOT NULL CHECK (kind IN ('theme', 'piece', 'values')),
  key text, name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200), site_id bigint,
  draft jsonb NOT NULL, draft_version int NOT NULL DEFAULT 1, changed_at timestamptz NOT NULL, changed_by bigint REFERENCES account,
  removed_at timestamptz,
  UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, kind, key),
  CHECK ((kind = 'theme') = (key IS NOT NULL)), CHECK (site_id IS NULL OR kind = 'values'),
  FOREIGN KEY (portfolio_id, site_id) REFERENCES site (portfolio_id, id));
CREATE UNIQUE INDEX ON stock_item (portfolio_id, coalesce(site_id, 0)) WHERE kind = 'values';
CREATE TABLE stock_revision (
  id ${identity}, portfolio_id bigint NOT NULL, item_id bigint NOT NULL, number int NOT NULL CHECK (number > 0), content jsonb NOT NULL,
  created_at timestamptz NOT NULL, created_by bigint REFERENCES account,
  UNIQUE (item_id, number), UNIQUE (portfolio_id, item_id, id),
  FOREIGN KEY (portfolio_id, item_id) REFERENCES stock_item (portfolio_id, id));
CREATE TABLE stock_period (
  id bigint PRIMARY KEY DEFAULT nextval('plan_row_id'), portfolio_id bigint NOT NULL, item_id bigint NOT NULL, revision_id bigint NOT NULL,
  from_at timestamptz NOT NULL, until_at timestamptz CHECK (until_at > from_at),
  during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED,
  FOREIGN KEY (portfolio_id, item_id, revision_id) REFERENCES stock_revision (portfolio_id, item_id, id),
  EXCLUDE USING gist (item_id WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED);
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON stock_period FOR EACH ROW EXECUTE FUNCTION refuse_past();
CREATE TABLE release_stock (
  release_id bigint NOT NULL, portfolio_id bigint NOT NULL, item_id bigint NOT NULL, before jsonb NOT NULL, after jsonb NOT NULL,
  PRIMARY KEY (release_id, item_id), FOREIGN KEY (portfolio_id, release_id) REFERENCES release (portfolio_id, id),
  FOREIGN KEY (portfolio_id, item_id) REFERENCES stock_item (portfolio_id, id));
CREATE INDEX ON release_stock (item_id);
ALTER TABLE site ADD COLUMN must_publish boolean NOT NULL DEFAULT false;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'ALTER TABLE site DROP COLUMN must_publish; DROP TABLE release_stock, stock_period, stock_revision, stock_item;',
  );
}
