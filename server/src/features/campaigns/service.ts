import type { CampaignBody, CampaignView, CampaignVisits, CopyBody } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { DAY, dayOf, later } from '@domatium/core/time';
import { writeAudit } from '../../platform/database/audit.js';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { copyIn } from '../copies/index.js';
import { notifyEvent } from '../../platform/events/index.js';
import { ConflictError, InvalidError, NotFoundError, StaleError } from '../../platform/errors.js';
import { zoneOf } from '../../heart/releases/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/campaigns';

export const campaigns = ({ database }: Context, portfolioId: PortfolioId): Promise<CampaignView[]> =>
  store.campaignsOf(database, portfolioId);

export function newCampaign(context: Context, portfolioId: PortfolioId, body: CampaignBody): Promise<{ id: number }> {
  return named(() =>
    inTransaction(context.database, async (trx) => ({ id: await newCampaignIn(trx, context, portfolioId, body) })),
  );
}

async function newCampaignIn(trx: Db, context: Context, portfolioId: PortfolioId, body: CampaignBody): Promise<number> {
  await refuseForeign(trx, portfolioId, body);
  const id = await store.insertCampaign(trx, portfolioId, body);
  await tell(trx, context, portfolioId, id, 'new-campaign', undefined, body);
  return id;
}

export function changeCampaign(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
  body: CampaignBody,
): Promise<{ version: number }> {
  return named(() =>
    inTransaction(context.database, async (trx) => {
      const before = await seenAs(trx, portfolioId, id, version);
      await refuseForeign(trx, portfolioId, body);
      await store.updateCampaign(trx, id, body);
      await tell(trx, context, portfolioId, id, 'change-campaign', before, body);
      return { version: version + 1 };
    }),
  );
}

export function removeCampaign(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  version: number,
): Promise<{ id: number }> {
  return inTransaction(context.database, async (trx) => {
    const before = await seenAs(trx, portfolioId, id, version);
    const count = await store.memberCount(trx, portfolioId, id);
    if (count)
      throw new ConflictError(
        say.hasGiveThemAnotherCampaignFirst(before.name, count === 1 ? say.onePage : say.pages(count)),
      );
    await store.deleteCampaign(trx, id);
    await tell(trx, context, portfolioId, id, 'remove-campaign', before, undefined);
    return { id };
  });
}

/** Visits of its pages added up: from its first day on as far as it is over, and the last 30 days against those before. */
export async function campaignVisits(
  { database, now }: Context,
  portfolioId: PortfolioId,
  id: number,
): Promise<CampaignVisits> {
  const campaign = await store.campaignById(database, portfolioId, id);
  if (!campaign) throw new NotFoundError('campaign');
  const zone = await zoneOf(database, portfolioId);
  const day = (back: number) => dayOf(later(now, -back * DAY), zone);
  const today = day(0);
  const last = campaign.untilDay !== null && campaign.untilDay < today ? campaign.untilDay : today;
  const between = (from: string, until: string) => store.visitsBetween(database, portfolioId, id, [from, until]);
  return {
    since: campaign.fromDay,
    total: await between(campaign.fromDay ?? '1970-01-01', last),
    last30: await between(day(29), today),
    before30: await between(day(59), day(30)),
  };
}

/** The whole campaign once more: a new one, its pages as drafts, their periods as one prepared release. */
export function runAgain(
  context: Context,
  portfolioId: PortfolioId,
  id: number,
  campaign: CampaignBody,
  copy: CopyBody,
): Promise<{ campaignId: number; pages: number[]; preparedId: number | null }> {
  if (copy.target.portfolioId !== portfolioId)
    throw new InvalidError([{ path: 'copy.target.portfolioId', message: say.aCampaignRunsAgainInIts }]);
  return named(() =>
    inTransaction(context.database, async (trx) => {
      if (!(await store.campaignById(trx, portfolioId, id))) throw new NotFoundError('campaign');
      const campaignId = await newCampaignIn(trx, context, portfolioId, campaign);
      return { campaignId, ...(await copyIn(trx, context, portfolioId, { ...copy, campaignId }, campaign.name)) };
    }),
  );
}

async function seenAs(trx: Db, portfolioId: PortfolioId, id: number, version: number): Promise<CampaignView> {
  await store.lockCampaign(trx, portfolioId, id);
  const campaign = await store.campaignById(trx, portfolioId, id);
  if (!campaign) throw new NotFoundError('campaign');
  if (campaign.version !== version) throw new StaleError(say.hasBeenChangedSinceYouLooked(campaign.name), campaign);
  return campaign;
}

async function refuseForeign(trx: Db, portfolioId: PortfolioId, { ownerId }: CampaignBody): Promise<void> {
  if (ownerId && !(await store.isMember(trx, portfolioId, ownerId)))
    throw new InvalidError([{ path: 'ownerId', message: say.thatPersonIsntAMemberOf }]);
}

/** Names of campaigns are used once in a portfolio. */
async function named<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const { code, constraint } = error as { code?: string; constraint?: string };
    if (code === '23505' && constraint?.startsWith('campaign'))
      throw new InvalidError([{ path: 'name', message: say.aCampaignWithThatNameAlready }]);
    throw error;
  }
}

async function tell(
  trx: Db,
  { now, account }: Context,
  portfolioId: PortfolioId,
  id: number,
  act: string,
  before: unknown,
  after: unknown,
): Promise<void> {
  await writeAudit(trx, {
    portfolioId,
    at: now,
    accountId: account,
    act,
    object: 'campaign',
    objectId: id,
    before,
    after,
  });
  await notifyEvent(trx, { portfolioId, kind: 'campaign', by: account });
}
