import { api, mayAct } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { NotFoundError, Refused } from '../../platform/errors.js';
import type { SignedIn } from '../../platform/sessions/index.js';
import * as service from './service.js';
import { copySite } from './site.js';
import { say } from '@domatium/core/words/answers/copies';

export function routes({ on }: Features): void {
  on(api.copyPreview, ({ context, portfolioId, body, signedIn }) => {
    refuseWithoutWrite(signedIn, body.target.portfolioId);
    return service.copyPreview(context, portfolioId, body);
  });
  on(api.copy, ({ context, portfolioId, body, signedIn }) => {
    refuseWithoutWrite(signedIn, body.target.portfolioId);
    return service.copy(context, portfolioId, body);
  });
  on(api.copySite, ({ context, portfolioId, params, body }) =>
    copySite(context, portfolioId, params.siteId, { ...body, host: body.host ?? null, consent: body.consent ?? null }),
  );
}

/** Reading is asked for where the pages are, writing where the copies go. */
function refuseWithoutWrite(signedIn: SignedIn | null, portfolioId: number): void {
  const role = signedIn?.roles.get(portfolioId);
  if (!role) throw new NotFoundError('portfolio');
  if (!mayAct(role, 'write')) throw new Refused('not-allowed', say.asYouCantMakePagesThere(role));
}
