import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.campaigns, ({ context, portfolioId }) => service.campaigns(context, portfolioId));
  on(api.newCampaign, ({ context, portfolioId, body }) => service.newCampaign(context, portfolioId, body));
  on(api.changeCampaign, ({ context, portfolioId, params, body: { version, ...body } }) =>
    service.changeCampaign(context, portfolioId, params.campaignId, version, body),
  );
  on(api.removeCampaign, ({ context, portfolioId, params, body }) =>
    service.removeCampaign(context, portfolioId, params.campaignId, body.version),
  );
  on(api.campaignVisits, ({ context, portfolioId, params }) =>
    service.campaignVisits(context, portfolioId, params.campaignId),
  );
  on(api.runAgain, ({ context, portfolioId, params, body }) =>
    service.runAgain(context, portfolioId, params.campaignId, body.campaign, body.copy),
  );
}
