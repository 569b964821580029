import { number, object, string, type InferType } from 'yup';
import { copyBody } from './copies.js';
import { endpoint } from './endpoint.js';
import { id, name, trim } from './fields.js';
import { inPortfolio } from './pages.js';
import { say } from '@domatium/core/words/answers/requests';

const DAY = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;
const isDay = (value: string | null | undefined) => !value || !Number.isNaN(Date.parse(`${value}T00:00Z`));
const day = () =>
  string()
    .nullable()
    .default(null)
    // A field that was emptied.
    .transform((value: unknown) => (value === '' ? null : value))
    .matches(DAY, say.enterADate)
    .test('day', say.thatDayDoesntExist, isDay);

const fields = {
  name: name(),
  purpose: string().transform(trim).default('').max(2000, say.atMost2000Characters),
  fromDay: day(),
  /** The last day of it. */
  untilDay: day().test(
    'order',
    say.theEndIsBeforeTheStart,
    (until, { parent }) =>
      !until || !(parent as { fromDay?: string }).fromDay || until >= (parent as { fromDay: string }).fromDay,
  ),
  ownerId: number().integer().positive().nullable().default(null),
};
export const campaignBody = object(fields).noUnknown(say.unknownField);
export type CampaignBody = InferType<typeof campaignBody>;

export interface CampaignView {
  readonly id: number;
  readonly name: string;
  readonly version: number;
  readonly purpose: string;
  readonly fromDay: string | null;
  readonly untilDay: string | null;
  readonly ownerId: number | null;
  readonly owner: string | null;
}

/** Visits of all its pages added up: during its days as far as they are over, and in the last 30 days. */
export interface CampaignVisits {
  readonly total: number;
  readonly since: string | null;
  readonly last30: number;
  readonly before30: number;
}

const onCampaign = object({ portfolioId: id(), campaignId: id() });

export const campaigns = {
  campaigns: endpoint<readonly CampaignView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/campaigns',
    who: 'read',
    summary: 'Campaigns with purpose, days and owner',
    params: inPortfolio,
  }),
  newCampaign: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/campaigns',
    who: 'write',
    summary: 'Make a campaign',
    params: inPortfolio,
    body: campaignBody,
  }),
  changeCampaign: endpoint<{ readonly version: number }>()({
    method: 'PUT',
    path: '/api/portfolios/:portfolioId/campaigns/:campaignId',
    who: 'write',
    summary: 'Change what a campaign is called, is for, when it is and whose it is',
    params: onCampaign,
    body: object({ ...fields, version: number().integer().positive().required() }).noUnknown(say.unknownField),
  }),
  removeCampaign: endpoint<{ readonly id: number }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/campaigns/:campaignId/remove',
    who: 'write',
    summary: 'Remove a campaign that has no pages',
    params: onCampaign,
    body: object({ version: number().integer().positive().required() }).noUnknown(say.unknownField),
  }),
  campaignVisits: endpoint<CampaignVisits>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/campaigns/:campaignId/visits',
    who: 'read',
    summary: 'Visits of its pages added up',
    params: onCampaign,
  }),
  runAgain: endpoint<{
    readonly campaignId: number;
    readonly pages: readonly number[];
    readonly preparedId: number | null;
  }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/campaigns/:campaignId/again',
    who: 'write',
    summary: 'Copy a whole campaign to new days: a new campaign, drafts, and one prepared release; nothing is released',
    params: onCampaign,
    body: object({ campaign: campaignBody.required(), copy: copyBody.required() }).noUnknown(say.unknownField),
  }),
};
