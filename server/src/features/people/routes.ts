import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { fromOf } from '../../platform/sessions/index.js';
import * as named from './named.js';
import * as service from './service.js';
import * as sites from './sites.js';

export function routes({ on, hasMail, origin, cookie, installationHost }: Features): void {
  on(api.people, ({ context, portfolioId }) => service.people(context, portfolioId, hasMail));
  on(api.invite, ({ context, portfolioId, body }) => service.invite(context, portfolioId, body, origin));
  on(api.revokeInvitation, ({ context, portfolioId, params }) =>
    service.revokeInvitation(context, portfolioId, params.invitationId),
  );
  on(api.setRole, ({ context, portfolioId, params, body }) =>
    service.setRole(context, portfolioId, params.personId, body.role),
  );
  on(api.removePerson, ({ context, portfolioId, params, body }) =>
    service.removePerson(context, portfolioId, params.personId, body.keepsLinks),
  );
  on(api.setWantsFactor, ({ context, portfolioId, body, signedIn }) =>
    service.setWantsFactor(context, portfolioId, body.isWanted, signedIn?.hasFactor ?? false),
  );
  on(api.setKeepDays, ({ context, portfolioId, body }) => service.setKeepDays(context, portfolioId, body.days));
  on(api.allowHost, ({ context, portfolioId, body }) => sites.allowHost(context, portfolioId, body.host));
  on(api.newSite, ({ context, portfolioId, body }) =>
    sites.newSite(context, portfolioId, { ...body, host: body.host ?? null, consent: body.consent ?? null }),
  );
  on(api.setSiteRules, ({ context, portfolioId, params, body }) =>
    sites.setSiteRules(context, portfolioId, params.siteId, body),
  );
  on(api.setSite, ({ context, portfolioId, params, body }) =>
    named.setSite(context, portfolioId, params.siteId, body.name),
  );
  on(api.setPortfolio, ({ context, portfolioId, body }) => named.setPortfolio(context, portfolioId, body));
  on(api.newPortfolio, ({ context, body, signedIn }) =>
    service.newPortfolio(
      context,
      { ...body, below: installationHost },
      [...(signedIn?.roles.values() ?? [])].includes('owner'),
    ),
  );
  on(api.invitation, ({ context, params }) => service.invitation(context, params.token));
  on(api.join, async ({ context, params, body, request, response }) => {
    const { token, view } = await service.join(context, params.token, body, fromOf(request));
    cookie.set(response, token);
    return view;
  });
  on(api.found, async ({ context, params, body, request, response }) => {
    const { id, signedIn } = await service.found(
      context,
      params.token,
      body.person,
      { ...body.portfolio, below: installationHost },
      fromOf(request),
    );
    cookie.set(response, signedIn.token);
    return { id };
  });
}
