/** Takes all things of a kind out of the stock, with what was released of them: for the way back to a version that knows no such kind. */
export function withoutKind(kind: string): string {
  const items = `(SELECT id FROM stock_item WHERE kind = '${kind}')`;
  return `ALTER TABLE stock_period DISABLE TRIGGER past_is_closed;
    DELETE FROM release_stock WHERE item_id IN ${items};
    DELETE FROM stock_period WHERE item_id IN ${items};
    SET CONSTRAINTS ALL IMMEDIATE;
    ALTER TABLE stock_period ENABLE TRIGGER past_is_closed;
    DELETE FROM stock_revision WHERE item_id IN ${items};
    DELETE FROM stock_item WHERE kind = '${kind}';`;
}

/** The kinds that the stock may hold from then on. */
export const kindCheck = (kinds: string): string =>
  `ALTER TABLE stock_item DROP CONSTRAINT stock_item_kind_check, ADD CONSTRAINT stock_item_kind_check CHECK (kind IN (${kinds}))`;
