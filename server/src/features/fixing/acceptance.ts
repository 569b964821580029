import type { AcceptedView, api, BodyOf } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { FINDING_KINDS, type FindingCode } from '@domatium/core/words';
import { say } from '@domatium/core/words/answers/requests';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { InvalidError, NotFoundError } from '../../platform/errors.js';
import { notifyEvent } from '../../platform/events/index.js';
import * as store from './store.js';

const titleOf = (code: string): string => FINDING_KINDS[code as FindingCode]?.title ?? code;

/** What was found and is let be, until it ends. */
export async function accepted({ database, now }: Context, portfolioId: PortfolioId): Promise<AcceptedView[]> {
  const rows = await store.acceptances(database, portfolioId, now);
  return rows.map((row) => ({ ...row, title: titleOf(row.code) }));
}

/** Lets something be that was found on a page: it blocks no release and counts no more, until its end. */
export async function accept(
  context: Context,
  portfolioId: PortfolioId,
  asked: BodyOf<typeof api.acceptFinding>,
): Promise<{ id: number }> {
  if (asked.until !== null && asked.until <= context.now)
    throw new InvalidError([{ path: 'until', message: say.endIsOver }]);
  return inTransaction(context.database, async (trx) => {
    const id = await store.insertAcceptance(trx, portfolioId, asked, context);
    if (id === null) throw new NotFoundError('page');
    const after = { title: titleOf(asked.code), reason: asked.reason };
    await tell(trx, context, portfolioId, asked.pageId as PageId, 'accept-finding', after);
    return { id };
  });
}

/** What was let be counts again. */
export function withdraw(context: Context, portfolioId: PortfolioId, id: number): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const row = await store.removeAcceptance(trx, portfolioId, id);
    if (!row) throw new NotFoundError();
    await tell(trx, context, portfolioId, row.pageId, 'withdraw-acceptance', { title: titleOf(row.code) });
    return { id };
  });
}

async function tell(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  pageId: PageId,
  act: string,
  after: object,
): Promise<void> {
  await writeAudit(trx, { portfolioId, at: now, accountId: account, act, object: 'page', objectId: pageId, after });
  await notifyEvent(trx, { portfolioId, kind: 'page', pageIds: [pageId] });
}
