import type { PortfolioId } from '@domatium/core/plan';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError } from '../../platform/errors.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pages';

const AT_A_TIME = 200;

/**
 * Deletes pages of the bin for ever, some at a time; those that are deleted when the person cancels stay deleted. One
 * page is confirmed by its name, several by their number.
 */
export async function deletePages(
  context: Context,
  portfolioId: PortfolioId,
  ids: readonly number[],
  confirmation: string,
): Promise<{ deleted: number }> {
  const { now, account } = context;
  const wanted = [...new Set(ids)];
  let deleted = 0;
  for (let first = 0; first < wanted.length; first += AT_A_TIME) {
    await context.step?.(first / wanted.length);
    deleted += await inTransaction(context.database, async (trx) => {
      const pages = await store.lockBinned(trx, portfolioId, wanted.slice(first, first + AT_A_TIME));
      const isMeant = wanted.length === 1 ? confirmation === pages[0]?.name : Number(confirmation) === wanted.length;
      if (pages.length && !isMeant)
        throw new InvalidError([
          {
            path: 'confirmation',
            message:
              wanted.length === 1 ? say.thatIsntItsName : say.typeToConfirmDeletingPages(wanted.length, wanted.length),
          },
        ]);
      if (!pages.length && wanted.length === 1)
        throw new InvalidError([{ path: 'pages', message: say.itIsNotInTheBin }]);
      const found = pages.map(({ id }) => id);
      const live = await store.onTheAir(trx, found, now);
      if (live.length)
        throw new InvalidError([
          {
            path: 'pages',
            message: say.isLiveOrPlannedTakeIt(live.join(', ')),
          },
        ]);
      await store.buryPages(trx, found, now, account);
      await writeAudit(
        trx,
        ...pages.map(({ id, name }): AuditEntry => ({
          portfolioId,
          at: now,
          accountId: account,
          act: 'delete',
          object: 'page',
          objectId: id,
          before: { name },
        })),
      );
      await notifyEvent(trx, { portfolioId, kind: 'page', pageIds: found, by: account });
      return pages.length;
    });
  }
  return { deleted };
}
