import type { StockItem } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { readOwnCss } from '@domatium/core/theme';
import type { Instant } from '@domatium/core/time';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';
import { InvalidError } from '../../platform/errors.js';
import * as store from './store.js';

/** Sites that want approvals before what they show changes, and who approved the draft as it is. */
export async function approvalsOf(
  db: Db,
  portfolioId: PortfolioId,
  row: store.ItemRow,
  now: Instant,
): Promise<StockItem['approvals']> {
  const wanted = await store.approvalsWanted(db, portfolioId, row, now);
  const given = await rowsOf<{ id: number; name: string }>(
    db,
    'SELECT a.id, a.name FROM stock_approval v JOIN account a ON a.id = v.account_id WHERE v.item_id = ? AND v.draft_version = ? ORDER BY v.at',
    [row.id, row.draft_version],
  );
  return {
    needed: Math.max(0, ...wanted.map(({ approvals }) => approvals)),
    sites: wanted.map(({ name }) => name),
    given,
    changedById: row.changed_by_id,
  };
}

export async function insertApproval(
  trx: Db,
  portfolioId: PortfolioId,
  { id, draft_version }: store.ItemRow,
  accountId: number,
  at: Instant,
): Promise<void> {
  await trx('stock_approval')
    .insert({ portfolio_id: portfolioId, item_id: id, draft_version, account_id: accountId, at: dateOf(at) })
    .onConflict(['item_id', 'account_id'])
    .merge();
}

/** Refuses what must not reach visitors as it is: a draft that others have to approve first, CSS that hides every page. */
export async function refuseUnready(db: Db, portfolioId: PortfolioId, row: store.ItemRow, now: Instant): Promise<void> {
  const { needed, given, sites } = await approvalsOf(db, portfolioId, row, now);
  if (given.length < needed) {
    const [first, ...more] = sites;
    const who = more.length ? `${first} and ${more.length} more ${more.length === 1 ? 'site' : 'sites'}` : first;
    const wants = `${who} ${more.length ? 'want' : 'wants'} ${needed === 1 ? 'an approval' : `${needed} approvals`}`;
    throw new InvalidError([{ path: 'approvals', message: `${wants} before this goes on its pages.` }]);
  }
  const css = row.kind === 'theme' || row.kind === 'css' ? (row.draft as { readonly css: string }).css : '';
  const fault = readOwnCss(css).faults.find(({ severity }) => severity === 'blocks');
  if (fault) throw new InvalidError([{ path: 'content.css', message: `Line ${fault.line}: ${fault.message}` }]);
}
