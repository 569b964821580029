import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { whoIs } from '../../platform/sessions/index.js';

export function routes({ on, hub, cookie }: Features): void {
  on(api.events, ({ context, portfolioId, signedIn, request, response }) => {
    const token = cookie.tokenOf(request);
    const mayGoOn = async () => {
      const now = await whoIs({ ...context, now: context.clock() }, token);
      return now?.roles.has(portfolioId) ?? false;
    };
    hub.add(portfolioId, { response, account: signedIn?.account ?? 0, mayGoOn });
    return Promise.resolve(undefined as never);
  });
}
