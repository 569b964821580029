import type { Knex } from 'knex';

/** Tables of the first slice. Every key but a host's name carries its portfolio; invariants are constraints. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE EXTENSION IF NOT EXISTS btree_gist');
  for (const part of [people, places, content, plans, releases, publishing, figures, guards]) await knex.raw(part);
}

export function down(): Promise<void> {
  return Promise.reject(new Error('The first migration is not taken back; drop the database instead'));
}

const identity = 'bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY';
const stretch = `from_at timestamptz NOT NULL, until_at timestamptz CHECK (until_at > from_at),
  during tstzrange GENERATED ALWAYS AS (tstzrange(from_at, until_at, '[)')) STORED`;
const answer = `answer text NOT NULL CHECK (answer IN ('redirect', 'gone', 'not-found')),
  target_page_id bigint, target_url text CHECK ((target_url LIKE 'http://%' OR target_url LIKE 'https://%') AND length(target_url) <= 2100), status smallint CHECK (status IN (301, 302)),
  CHECK ((answer = 'redirect') = (status IS NOT NULL)),
  CHECK ((answer = 'redirect') = (num_nonnulls(target_page_id, target_url) = 1)),
  CHECK (answer = 'redirect' OR num_nonnulls(target_page_id, target_url) = 0),
  FOREIGN KEY (portfolio_id, target_page_id) REFERENCES page (portfolio_id, id)`;

const people = `
CREATE TABLE portfolio (id ${identity}, name text NOT NULL, slug text NOT NULL UNIQUE, zone text NOT NULL);
CREATE TABLE account (id ${identity}, email text NOT NULL UNIQUE CHECK (email = lower(email)), name text NOT NULL, password_hash text NOT NULL);
CREATE TABLE membership (
  portfolio_id bigint NOT NULL REFERENCES portfolio, account_id bigint NOT NULL REFERENCES account,
  role text NOT NULL CHECK (role IN ('owner', 'publisher', 'author', 'reader')), PRIMARY KEY (account_id, portfolio_id));
CREATE TABLE session (
  token_hash text PRIMARY KEY, account_id bigint NOT NULL REFERENCES account ON DELETE CASCADE, csrf text NOT NULL,
  created_at timestamptz NOT NULL, expires_at timestamptz NOT NULL);
CREATE INDEX ON session (account_id);
CREATE TABLE sign_in_failure (key text PRIMARY KEY, failures int NOT NULL, last_at timestamptz NOT NULL);`;

const places = `
CREATE TABLE domain (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, name text NOT NULL UNIQUE, UNIQUE (portfolio_id, id));
CREATE TABLE host (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, domain_id bigint, name text NOT NULL UNIQUE CHECK (name = lower(name)),
  is_own boolean NOT NULL DEFAULT false, version bigint NOT NULL DEFAULT 1, last_release_at timestamptz,
  UNIQUE (portfolio_id, id), FOREIGN KEY (portfolio_id, domain_id) REFERENCES domain (portfolio_id, id));
CREATE TABLE site (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, name text NOT NULL, brand text NOT NULL, theme text NOT NULL, language text NOT NULL DEFAULT 'en',
  UNIQUE (portfolio_id, id));
CREATE TABLE campaign (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, name text NOT NULL, UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, name));`;

const content = `
CREATE TABLE page (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  role text NOT NULL DEFAULT 'ordinary' CHECK (role IN ('ordinary', 'home', 'not-found', 'thank-you')),
  campaign_id bigint, owner_id bigint REFERENCES account, version int NOT NULL DEFAULT 1, created_at timestamptz NOT NULL,
  changed_at timestamptz NOT NULL, changed_by bigint REFERENCES account,
  UNIQUE (portfolio_id, id), FOREIGN KEY (portfolio_id, campaign_id) REFERENCES campaign (portfolio_id, id));
CREATE TABLE revision (
  id ${identity}, portfolio_id bigint NOT NULL, page_id bigint NOT NULL, number int NOT NULL, document jsonb NOT NULL,
  created_at timestamptz NOT NULL, created_by bigint REFERENCES account,
  UNIQUE (page_id, number), UNIQUE (portfolio_id, page_id, id), FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE TABLE draft (
  page_id bigint PRIMARY KEY, portfolio_id bigint NOT NULL, document jsonb NOT NULL, version int NOT NULL DEFAULT 1,
  changed_at timestamptz NOT NULL, changed_by bigint REFERENCES account,
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE TABLE revision_reference (
  revision_id bigint NOT NULL REFERENCES revision, portfolio_id bigint NOT NULL, page_id bigint NOT NULL,
  PRIMARY KEY (page_id, revision_id), FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE TABLE picture (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, name text NOT NULL, description text NOT NULL DEFAULT '',
  width int NOT NULL, height int NOT NULL, variants jsonb NOT NULL, UNIQUE (portfolio_id, id));`;

const plans = `
CREATE SEQUENCE plan_row_id;
CREATE TABLE site_address (
  id bigint PRIMARY KEY DEFAULT nextval('plan_row_id'), portfolio_id bigint NOT NULL, site_id bigint NOT NULL, host_id bigint NOT NULL,
  base_path text NOT NULL DEFAULT '/', is_primary boolean NOT NULL, ${stretch},
  FOREIGN KEY (portfolio_id, site_id) REFERENCES site (portfolio_id, id), FOREIGN KEY (portfolio_id, host_id) REFERENCES host (portfolio_id, id),
  EXCLUDE USING gist (host_id WITH =, base_path WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED,
  EXCLUDE USING gist (site_id WITH =, during WITH &&) WHERE (is_primary) DEFERRABLE INITIALLY DEFERRED);
CREATE TABLE placement (
  id bigint PRIMARY KEY, portfolio_id bigint NOT NULL, page_id bigint NOT NULL, site_id bigint NOT NULL,
  path text NOT NULL CHECK (octet_length(path) <= 1024 AND path LIKE '/%'), ${stretch},
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id), FOREIGN KEY (portfolio_id, site_id) REFERENCES site (portfolio_id, id),
  EXCLUDE USING gist (page_id WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED);
CREATE INDEX ON placement (site_id, path);
CREATE TABLE address (
  id ${identity}, host_id bigint NOT NULL REFERENCES host, path text NOT NULL CHECK (octet_length(path) <= 1024), UNIQUE (host_id, path));`;

const releases = `
CREATE TABLE release (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, at timestamptz NOT NULL, act text NOT NULL,
  account_id bigint REFERENCES account, idempotency_key text, undoes_id bigint, summary text NOT NULL, published_at timestamptz, out_at timestamptz, failure text,
  UNIQUE (portfolio_id, id), UNIQUE (portfolio_id, idempotency_key),
  FOREIGN KEY (portfolio_id, undoes_id) REFERENCES release (portfolio_id, id));
CREATE INDEX ON release (out_at) WHERE out_at IS NULL;
CREATE INDEX ON release (undoes_id);
CREATE TABLE release_page (
  release_id bigint NOT NULL, portfolio_id bigint NOT NULL, page_id bigint NOT NULL, change jsonb NOT NULL, before jsonb NOT NULL, after jsonb NOT NULL,
  PRIMARY KEY (page_id, release_id), FOREIGN KEY (portfolio_id, release_id) REFERENCES release (portfolio_id, id),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE INDEX ON release_page (release_id);
CREATE TABLE period (
  id bigint PRIMARY KEY, portfolio_id bigint NOT NULL, page_id bigint NOT NULL, revision_id bigint NOT NULL, release_id bigint, ${stretch},
  FOREIGN KEY (portfolio_id, page_id, revision_id) REFERENCES revision (portfolio_id, page_id, id),
  FOREIGN KEY (portfolio_id, release_id) REFERENCES release (portfolio_id, id),
  EXCLUDE USING gist (page_id WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED);
CREATE INDEX ON period (page_id);
CREATE INDEX ON period (revision_id);
CREATE TABLE after_answer (
  id bigint PRIMARY KEY, portfolio_id bigint NOT NULL, kind text NOT NULL CHECK (kind IN ('exact', 'afterwards', 'move')), page_id bigint,
  host_id bigint NOT NULL, path text NOT NULL, rank timestamptz NOT NULL, ordinal bigint NOT NULL, ${stretch}, ${answer},
  CHECK (kind = 'exact' OR page_id IS NOT NULL),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id), FOREIGN KEY (portfolio_id, host_id) REFERENCES host (portfolio_id, id));
CREATE INDEX ON after_answer (host_id, path);
CREATE INDEX ON after_answer (page_id);
CREATE INDEX ON after_answer (target_page_id);
CREATE TABLE claim (
  id ${identity}, portfolio_id bigint NOT NULL, address_id bigint NOT NULL REFERENCES address, layer text NOT NULL CHECK (layer IN ('page', 'after')),
  page_id bigint, revision_id bigint, source_id bigint NOT NULL, ${stretch},
  answer text CHECK (answer IN ('redirect', 'gone', 'not-found')), target_page_id bigint, target_url text, status smallint,
  CHECK ((layer = 'page') = (revision_id IS NOT NULL)), CHECK ((layer = 'after') = (answer IS NOT NULL)),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id),
  EXCLUDE USING gist (address_id WITH =, layer WITH =, during WITH &&) DEFERRABLE INITIALLY DEFERRED);
CREATE INDEX ON claim (page_id);
CREATE INDEX ON claim (target_page_id);
CREATE TABLE audit (
  id ${identity}, portfolio_id bigint NOT NULL REFERENCES portfolio, at timestamptz NOT NULL, account_id bigint REFERENCES account, act text NOT NULL,
  object text NOT NULL, object_id bigint NOT NULL, before jsonb, after jsonb, release_id bigint);
CREATE INDEX ON audit (object, object_id);`;

const publishing = `
CREATE TABLE render (key text PRIMARY KEY, artifact text NOT NULL);
CREATE TABLE route (
  id ${identity}, portfolio_id bigint NOT NULL, host_id bigint NOT NULL REFERENCES host, path text NOT NULL, layer text NOT NULL,
  from_at timestamptz NOT NULL, until_at timestamptz CHECK (until_at > from_at),
  answer text NOT NULL CHECK (answer IN ('page', 'redirect', 'gone', 'not-found')), page_id bigint, revision_id bigint, claim_id bigint NOT NULL,
  artifact text, target_page_id bigint, target_url text, status smallint, CHECK ((answer = 'page') = (artifact IS NOT NULL)));
CREATE INDEX ON route (host_id, path);
CREATE INDEX ON route (page_id);
CREATE TABLE page_route (
  page_id bigint NOT NULL, host_id bigint NOT NULL REFERENCES host, path text NOT NULL, from_at timestamptz NOT NULL, until_at timestamptz);
CREATE INDEX ON page_route (page_id);
CREATE INDEX ON page_route (host_id);
CREATE TABLE release_host (release_id bigint NOT NULL REFERENCES release, host_id bigint NOT NULL REFERENCES host, version bigint NOT NULL, PRIMARY KEY (release_id, host_id));
CREATE TABLE edge (id text PRIMARY KEY, seen_at timestamptz NOT NULL);
CREATE TABLE edge_host (edge_id text NOT NULL REFERENCES edge ON DELETE CASCADE, host_id bigint NOT NULL REFERENCES host, version bigint NOT NULL, PRIMARY KEY (edge_id, host_id));`;

const figures = `
CREATE TABLE visit_day (
  portfolio_id bigint NOT NULL REFERENCES portfolio, day date NOT NULL, host text NOT NULL, path text NOT NULL, outcome text NOT NULL, page_id bigint,
  is_bot boolean NOT NULL, answers int NOT NULL, visits int NOT NULL,
  UNIQUE NULLS NOT DISTINCT (portfolio_id, day, host, path, outcome, page_id, is_bot));
CREATE INDEX ON visit_day (page_id, day);
CREATE TABLE visitor_seen (day date NOT NULL, page_id bigint NOT NULL, visitor text NOT NULL, PRIMARY KEY (day, page_id, visitor));
CREATE TABLE visit_salt (day date PRIMARY KEY, salt text NOT NULL);
CREATE TABLE shipped_spool (name text PRIMARY KEY);`;

/** Rule 5: the past is closed. Each transaction that changes a plan says its instant; nothing before it may change. */
const guards = `
CREATE FUNCTION refuse_past() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  said text := current_setting('domatium.instant', true);
  instant timestamptz;
BEGIN
  IF said IS NULL OR said = '' THEN RAISE EXCEPTION 'a change of % names no instant', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
  instant := said::timestamptz;
  IF TG_OP = 'INSERT' THEN
    IF NEW.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
    RETURN NEW;
  ELSIF TG_OP = 'DELETE' THEN
    IF OLD.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
    RETURN OLD;
  END IF;
  IF OLD.from_at < instant THEN
    IF (to_jsonb(OLD) - 'until_at' - 'during') <> (to_jsonb(NEW) - 'until_at' - 'during')
      OR coalesce(OLD.until_at, 'infinity') < instant OR coalesce(NEW.until_at, 'infinity') < instant
    THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001'; END IF;
  ELSIF NEW.from_at < instant THEN RAISE EXCEPTION 'the past of % is closed', TG_TABLE_NAME USING ERRCODE = 'DM001';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON claim FOR EACH ROW EXECUTE FUNCTION refuse_past();
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON period FOR EACH ROW EXECUTE FUNCTION refuse_past();
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON placement FOR EACH ROW EXECUTE FUNCTION refuse_past();
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON after_answer FOR EACH ROW EXECUTE FUNCTION refuse_past();
CREATE TRIGGER past_is_closed BEFORE INSERT OR UPDATE OR DELETE ON site_address FOR EACH ROW EXECUTE FUNCTION refuse_past();`;
