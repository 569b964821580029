import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { originOf } from '../http/forgery.js';
import { setSession } from '../sessions/index.js';
import * as service from './service.js';

export function routes({ on, hasMail }: Features): void {
  on(api.people, ({ context, portfolioId }) => service.people(context, portfolioId, hasMail));
  on(api.invite, ({ context, portfolioId, body, request }) =>
    service.invite(context, portfolioId, { email: body.email ?? null, role: body.role }, originOf(request)),
  );
  on(api.revokeInvitation, ({ context, portfolioId, params }) =>
    service.revokeInvitation(context, portfolioId, params.invitationId),
  );
  on(api.setRole, ({ context, portfolioId, params, body }) =>
    service.setRole(context, portfolioId, params.personId, body.role),
  );
  on(api.removePerson, ({ context, portfolioId, params }) =>
    service.removePerson(context, portfolioId, params.personId),
  );
  on(api.newSite, ({ context, portfolioId, body }) =>
    service.newSite(context, portfolioId, { ...body, host: body.host ?? null }),
  );
  on(api.setApprovals, ({ context, portfolioId, params, body }) =>
    service.setApprovals(context, portfolioId, params.siteId, body.approvals),
  );
  on(api.newPortfolio, ({ context, body, signedIn }) =>
    service.newPortfolio(context, body, [...(signedIn?.roles.values() ?? [])].includes('owner')),
  );
  on(api.invitation, ({ context, params }) => service.invitation(context, params.token));
  on(api.join, async ({ context, params, body, request, response }) => {
    const { token, view } = await service.join(context, params.token, body, request.ip ?? '');
    setSession(response, context, token);
    return view;
  });
  on(api.found, async ({ context, params, body, request, response }) => {
    const { id, signedIn } = await service.found(context, params.token, body.person, body.portfolio, request.ip ?? '');
    setSession(response, context, signedIn.token);
    return { id };
  });
}
