import type { Knex } from 'knex';

/**
 * How serious sites take what checks find, what of it is accepted with a reason, and what is found by looking at all pages
 * of a portfolio (decision 0057). A finding keeps how serious it usually is beside how its site takes it. What sites said
 * of first content is one such line now; its column stays for the version before, which reads it, and goes with the next.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE site_severity (
  portfolio_id bigint NOT NULL, site_id bigint NOT NULL, code text NOT NULL CHECK (length(code) BETWEEN 1 AND 60),
  taken text NOT NULL CHECK (taken IN ('blocks', 'worth-fixing', 'off')),
  PRIMARY KEY (site_id, code), FOREIGN KEY (portfolio_id, site_id) REFERENCES site (portfolio_id, id) ON DELETE CASCADE);
CREATE INDEX site_severity_portfolio ON site_severity (portfolio_id);
INSERT INTO site_severity (portfolio_id, site_id, code, taken)
  SELECT portfolio_id, id, code, 'worth-fixing' FROM site, unnest(ARRAY['placeholder', 'piece-first-content']) AS code
  WHERE first_content = 'worth-fixing';
CREATE TABLE finding_acceptance (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  portfolio_id bigint NOT NULL, page_id bigint NOT NULL, code text NOT NULL CHECK (length(code) BETWEEN 1 AND 60),
  block_id text NOT NULL DEFAULT '', reason text NOT NULL CHECK (length(btrim(reason)) BETWEEN 1 AND 500),
  until_at timestamptz, account_id bigint REFERENCES account ON DELETE SET NULL, at timestamptz NOT NULL,
  CHECK (until_at IS NULL OR until_at > at), UNIQUE (page_id, code, block_id),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id) ON DELETE CASCADE);
CREATE INDEX finding_acceptance_portfolio ON finding_acceptance (portfolio_id);
ALTER TABLE finding ADD COLUMN usual text CHECK (usual IN ('blocks', 'worth-fixing')),
  DROP CONSTRAINT finding_source_check, ADD CONSTRAINT finding_source_check CHECK (source IN ('draft', 'plan', 'portfolio')),
  DROP CONSTRAINT finding_severity_check, ADD CONSTRAINT finding_severity_check CHECK (severity IN ('blocks', 'worth-fixing', 'off'));
ALTER TABLE portfolio ADD COLUMN judged_publication bigint, ADD COLUMN judged_at timestamptz;`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
ALTER TABLE portfolio DROP COLUMN judged_publication, DROP COLUMN judged_at;
DELETE FROM finding WHERE source = 'portfolio' OR severity = 'off';
ALTER TABLE finding DROP COLUMN usual,
  DROP CONSTRAINT finding_source_check, ADD CONSTRAINT finding_source_check CHECK (source IN ('draft', 'plan')),
  DROP CONSTRAINT finding_severity_check, ADD CONSTRAINT finding_severity_check CHECK (severity IN ('blocks', 'worth-fixing'));
UPDATE site SET first_content = CASE WHEN EXISTS (SELECT FROM site_severity s WHERE s.site_id = site.id AND s.code = 'placeholder' AND s.taken <> 'blocks')
  THEN 'worth-fixing' ELSE 'blocks' END;
DROP TABLE finding_acceptance, site_severity;`);
}
