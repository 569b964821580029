import type { Knex } from 'knex';

/** States of drafts stand in a table of their own, which is thinned; the audit says who, what and which version, and holds no content. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
CREATE TABLE draft_state (
  page_id bigint NOT NULL, portfolio_id bigint NOT NULL, version int NOT NULL, document jsonb NOT NULL,
  at timestamptz NOT NULL, account_id bigint REFERENCES account, PRIMARY KEY (page_id, version),
  FOREIGN KEY (portfolio_id, page_id) REFERENCES page (portfolio_id, id));
CREATE INDEX ON draft_state (at);
INSERT INTO draft_state (page_id, portfolio_id, version, document, at, account_id)
  SELECT u.object_id, u.portfolio_id, (u.before ->> 'version')::int, u.before -> 'document', coalesce(w.at, p.created_at), w.account_id
  FROM audit u JOIN page p ON p.id = u.object_id AND p.portfolio_id = u.portfolio_id AND p.deleted_at IS NULL
  LEFT JOIN audit w ON w.object = 'draft' AND w.object_id = u.object_id AND w.act = 'save-draft' AND w.after ->> 'version' = u.before ->> 'version'
  WHERE u.object = 'draft' AND u.act = 'save-draft' AND jsonb_typeof(u.before -> 'document') = 'object'
  ORDER BY u.id DESC ON CONFLICT DO NOTHING;
UPDATE audit SET before = jsonb_build_object('version', before -> 'version') WHERE object = 'draft' AND act = 'save-draft';
UPDATE audit SET before = NULL, after = NULL WHERE object = 'stock' AND act IN ('save-stock', 'remove-stock');
UPDATE audit SET after = after - 'text' WHERE object = 'review' AND act = 'remark';`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('DROP TABLE draft_state');
}
