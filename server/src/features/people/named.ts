import type { PortfolioId } from '@domatium/core/plan';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { keepZonesOf } from '../../heart/releases/index.js';
import { tell } from './service.js';
import * as store from './store.js';

/** Another name among us. Lists of pages read what visitors read, so nothing of theirs changes. */
export function setSite(
  context: Context,
  portfolioId: PortfolioId,
  siteId: number,
  name: string,
): Promise<{ name: string }> {
  return inTransaction(context.database, async (trx) => {
    const was = await store.renameSite(trx, portfolioId, siteId, name);
    if (was === null) throw new NotFoundError('site');
    await tell(trx, context, portfolioId, siteId, 'set-site', { name }, { name: was });
    return { name };
  });
}

/** Another name or zone: what is planned stays at its instants and reads on another clock. */
export function setPortfolio(
  context: Context,
  portfolioId: PortfolioId,
  { name, zone }: { readonly name: string; readonly zone: string },
): Promise<{ name: string; zone: string }> {
  return inTransaction(context.database, async (trx) => {
    const [was] = await trx('portfolio')
      .where({ id: portfolioId })
      .forUpdate()
      .select<{ name: string; zone: string }[]>('name', 'zone');
    if (!was) throw new NotFoundError('portfolio');
    if (was.zone !== zone) await keepZonesOf(trx, portfolioId, was.zone, context.now);
    await trx('portfolio').where({ id: portfolioId }).update({ name, zone });
    await tell(trx, context, portfolioId, portfolioId, 'set-portfolio', { name, zone }, was);
    return { name, zone };
  });
}
