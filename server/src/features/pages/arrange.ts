import type { ArrangeBody } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { writeAudit, type AuditEntry } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pages';

/** Above this an event names no pages: everyone reads the register anew. */
const NAMED = 500;

/** Gives pages their campaign, owner and labels; refused whole where one of them is not as it was seen. */
export async function arrange(
  context: Context,
  portfolioId: PortfolioId,
  { pages }: ArrangeBody,
): Promise<{ versions: [number, number][] }> {
  const { now, account } = context;
  return inTransaction(context.database, async (trx) => {
    const current = await store.lockArranged(
      trx,
      portfolioId,
      pages.map(({ id }) => id),
    );
    const known = new Map(current.map((page) => [page.id as number, page]));
    if (pages.some(({ id }) => !known.has(id))) throw new NotFoundError();
    const stale = pages.filter(({ id, version }) => known.get(id)?.version !== version);
    if (stale.length)
      throw new StaleError(
        stale.length === 1
          ? say.hasBeenChanged(known.get(stale[0]?.id ?? 0)?.name ?? '')
          : say.haveBeenChanged(stale.length),
        stale.map(({ id }) => known.get(id)),
      );
    await refuseForeign(trx, portfolioId, pages);
    await context.step?.(0.2);
    const next = pages.map((page) => {
      const was = known.get(page.id) as store.ArrangedRow;
      return {
        id: page.id as PageId,
        campaign_id: page.campaignId === undefined ? was.campaign_id : page.campaignId,
        owner_id: page.ownerId === undefined ? was.owner_id : page.ownerId,
        labels: page.labels === undefined ? was.labels : [...new Set(page.labels)].sort(),
      };
    });
    await store.saveArranged(trx, portfolioId, next, now, account);
    await context.step?.(0.7);
    await store.saveLabels(trx, portfolioId, next);
    await writeAudit(
      trx,
      ...next.map((page): AuditEntry => {
        const was = known.get(page.id) as store.ArrangedRow;
        return {
          portfolioId,
          at: now,
          accountId: account,
          act: 'arrange',
          object: 'page',
          objectId: page.id,
          before: { campaignId: was.campaign_id, ownerId: was.owner_id, labels: was.labels },
          after: { campaignId: page.campaign_id, ownerId: page.owner_id, labels: page.labels },
        };
      }),
    );
    await notifyEvent(trx, {
      portfolioId,
      kind: 'page',
      by: account,
      ...(next.length <= NAMED ? { pageIds: next.map(({ id }) => id) } : {}),
    });
    return { versions: pages.map(({ id, version }): [number, number] => [id, version + 1]) };
  });
}

/** Campaigns and people of another portfolio do not exist here. */
async function refuseForeign(trx: Db, portfolioId: PortfolioId, pages: ArrangeBody['pages']): Promise<void> {
  const [campaigns, people] = await store.namedIn(trx, portfolioId);
  for (const [index, { campaignId, ownerId }] of pages.entries()) {
    if (campaignId && !campaigns.has(campaignId))
      throw new InvalidError([{ path: `pages[${index}].campaignId`, message: say.thatCampaignIsntInThisPortfolio }]);
    if (ownerId && !people.has(ownerId))
      throw new InvalidError([{ path: `pages[${index}].ownerId`, message: say.thatPersonIsntAMemberOf }]);
  }
}
