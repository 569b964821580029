import type { CampaignBody, CampaignView } from '@domatium/contracts';
import type { PortfolioId } from '@domatium/core/plan';
import { rowsOf, type Db } from '../../platform/database/context.js';

const CAMPAIGN = `SELECT c.id, c.name, c.version, c.purpose, c.from_day::text AS "fromDay", c.until_day::text AS "untilDay", c.owner_id AS "ownerId", a.name AS owner
  FROM campaign c LEFT JOIN account a ON a.id = c.owner_id`;

export function campaignsOf(db: Db, portfolioId: PortfolioId): Promise<CampaignView[]> {
  return rowsOf(db, `${CAMPAIGN} WHERE c.portfolio_id = ? ORDER BY c.name`, [portfolioId]);
}

export async function campaignById(db: Db, portfolioId: PortfolioId, id: number): Promise<CampaignView | null> {
  const [row] = await rowsOf<CampaignView>(db, `${CAMPAIGN} WHERE c.portfolio_id = ? AND c.id = ?`, [portfolioId, id]);
  return row ?? null;
}

const columnsOf = ({ name, purpose, fromDay, untilDay, ownerId }: CampaignBody) => ({
  name,
  purpose,
  from_day: fromDay,
  until_day: untilDay,
  owner_id: ownerId,
});

export async function insertCampaign(trx: Db, portfolioId: PortfolioId, campaign: CampaignBody): Promise<number> {
  const [row] = (await trx('campaign')
    .insert({ portfolio_id: portfolioId, ...columnsOf(campaign) })
    .returning('id')) as { id: number }[];
  if (!row) throw new Error('A campaign was not written');
  return row.id;
}

export async function lockCampaign(trx: Db, portfolioId: PortfolioId, id: number): Promise<void> {
  await rowsOf(trx, 'SELECT 1 FROM campaign WHERE portfolio_id = ? AND id = ? FOR UPDATE', [portfolioId, id]);
}

export async function updateCampaign(trx: Db, id: number, campaign: CampaignBody): Promise<void> {
  await trx('campaign')
    .where({ id })
    .update({ ...columnsOf(campaign), version: trx.raw('version + 1') });
}

export async function deleteCampaign(trx: Db, id: number): Promise<void> {
  await trx('campaign').where({ id }).delete();
}

export async function memberCount(db: Db, portfolioId: PortfolioId, id: number): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    'SELECT count(*)::int AS n FROM page WHERE portfolio_id = ? AND campaign_id = ?',
    [portfolioId, id],
  );
  return row?.n ?? 0;
}

export async function isMember(db: Db, portfolioId: PortfolioId, accountId: number): Promise<boolean> {
  const rows = await rowsOf(db, 'SELECT 1 FROM membership WHERE portfolio_id = ? AND account_id = ?', [
    portfolioId,
    accountId,
  ]);
  return rows.length > 0;
}

/** Visits by people of a campaign's pages between two days, both counted. */
export async function visitsBetween(
  db: Db,
  portfolioId: PortfolioId,
  campaignId: number,
  [from, until]: readonly [string, string],
): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    `SELECT coalesce(sum(v.visits), 0)::int AS n FROM visit_day v JOIN page p ON p.id = v.page_id
    WHERE v.portfolio_id = ? AND p.campaign_id = ? AND NOT v.is_bot AND v.day BETWEEN ?::date AND ?::date`,
    [portfolioId, campaignId, from, until],
  );
  return row?.n ?? 0;
}
