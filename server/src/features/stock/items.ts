import type { PortfolioId } from '@domatium/core/plan';
import { writeAudit } from '../../platform/database/audit.js';
import type { Context, Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { NotFoundError } from '../../platform/errors.js';
import * as store from '../../heart/stock/index.js';

export async function found(db: Db, portfolioId: PortfolioId, id: number, lock = ''): Promise<store.ItemRow> {
  const row = await store.itemById(db, portfolioId, id, lock);
  if (!row) throw new NotFoundError('in-the-stock');
  return row;
}

export async function note(
  trx: Db,
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  act: string,
  before: unknown,
  after: unknown,
) {
  const entry = {
    portfolioId,
    at: context.now,
    accountId: context.account,
    act,
    object: 'stock' as const,
    objectId: id,
  };
  await writeAudit(trx, { ...entry, before, after });
  await notifyEvent(trx, { portfolioId, kind: 'stock', pageIds: [], by: context.account });
}
