import type { Knex } from 'knex';
import { kindCheck, withoutKind } from './stock-kinds.js';

const BEFORE =
  "'theme', 'piece', 'values', 'css', 'profile', 'header', 'footer', 'band', 'standing', 'menu', 'legal', 'metadata', 'code'";
const siteCheck = (ofOne: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_site_check, ADD CONSTRAINT stock_item_site_check
    CHECK (CASE WHEN kind IN (${ofOne}) THEN site_id IS NOT NULL WHEN kind IN ('values', 'standing', 'legal', 'metadata') THEN true ELSE site_id IS NULL END)`;

/** What lies at the root of hosts beside pages is in the stock, one for each site, and on a line of frames (decision 0055). */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${kindCheck(`${BEFORE}, 'root'`)};
    ${siteCheck("'css', 'profile', 'menu', 'root'")};
    CREATE UNIQUE INDEX stock_item_root ON stock_item (site_id) WHERE kind = 'root' AND removed_at IS NULL;
    ALTER TABLE frame_place ADD COLUMN root bigint, ADD FOREIGN KEY (portfolio_id, root) REFERENCES frame_line (portfolio_id, id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP INDEX stock_item_root;
    ALTER TABLE frame_place DROP COLUMN root;
    ${withoutKind('root')}
    ${kindCheck(BEFORE)};
    ${siteCheck("'css', 'profile', 'menu'")};`);
}
