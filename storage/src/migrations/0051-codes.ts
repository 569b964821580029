import type { Knex } from 'knex';
import { kindCheck, withoutKind } from './stock-kinds.js';

const BEFORE =
  "'theme', 'piece', 'values', 'css', 'profile', 'header', 'footer', 'band', 'standing', 'menu', 'legal', 'metadata'";

/**
 * Codes that run on many pages are in the stock, and stand on a line of frames of their own (decision 0054). A place that
 * the version before writes while this one comes says none, and gets its line with its next publication.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${kindCheck(`${BEFORE}, 'code'`)};
    ALTER TABLE frame_place ADD COLUMN codes bigint, ADD FOREIGN KEY (portfolio_id, codes) REFERENCES frame_line (portfolio_id, id);`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE frame_place DROP COLUMN codes;
    ${withoutKind('code')}
    ${kindCheck(BEFORE)};`);
}
