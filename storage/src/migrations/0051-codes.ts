import type { Knex } from 'knex';

const BEFORE =
  "'theme', 'piece', 'values', 'css', 'profile', 'header', 'footer', 'band', 'standing', 'menu', 'legal', 'metadata'";
const kindCheck = (kinds: string) =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, ADD CONSTRAINT stock_item_kind_check CHECK (kind IN (${kinds}))`;

/**
 * Codes that run on many pages are in the stock, and stand on a line of frames of their own (decision 0054). A place that
 * the version before writes while this one comes says none, and gets its line with its next publication.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`${kindCheck(`${BEFORE}, 'code'`)};
    ALTER TABLE frame_place ADD COLUMN codes bigint, ADD FOREIGN KEY (portfolio_id, codes) REFERENCES frame_line (portfolio_id, id);`);
}

export async function down(knex: Knex): Promise<void> {
  const items = "(SELECT id FROM stock_item WHERE kind = 'code')";
  await knex.raw(`
    ALTER TABLE frame_place DROP COLUMN codes;
    ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
    DELETE FROM release_stock WHERE item_id IN ${items};
    DELETE FROM stock_period WHERE item_id IN ${items};
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
    DELETE FROM stock_revision WHERE item_id IN ${items};
    DELETE FROM stock_item WHERE kind = 'code';
    ${kindCheck(BEFORE)};`);
}
