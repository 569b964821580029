import type { Knex } from 'knex';

/** Views and feeds name campaigns, people and templates by identity: a new name changes none of them. */
export async function up(knex: Knex): Promise<void> {
  for (const table of ['named_view', 'calendar_feed'])
    await knex.raw(`
UPDATE ${table} v SET parts = v.parts || jsonb_build_object('campaign', c.id::text)
  FROM campaign c WHERE c.portfolio_id = v.portfolio_id AND c.name = v.parts ->> 'campaign';
UPDATE ${table} v SET parts = v.parts || jsonb_build_object('owner', a.id::text)
  FROM account a JOIN membership m ON m.account_id = a.id WHERE m.portfolio_id = v.portfolio_id AND a.name = v.parts ->> 'owner';
UPDATE ${table} v SET parts = v.parts || jsonb_build_object('template', p.id::text)
  FROM page p WHERE p.portfolio_id = v.portfolio_id AND p.is_template AND p.name = v.parts ->> 'template';`);
}

/** Names are read as before. */
export async function down(): Promise<void> {}
