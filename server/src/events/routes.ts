import { api } from '@domatium/contracts';
import { tokenOf } from '../http/forgery.js';
import type { Features } from '../http/app.js';
import { whoIs } from '../sessions/index.js';

export function routes({ on, hub }: Features): void {
  on(api.events, ({ context, portfolioId, signedIn, request, response }) => {
    const token = tokenOf(request);
    const mayGoOn = async () => {
      const now = await whoIs({ ...context, now: context.clock() }, token);
      return now?.roles.has(portfolioId) ?? false;
    };
    hub.add(portfolioId, { response, account: signedIn?.account ?? 0, mayGoOn });
    return Promise.resolve(undefined as never);
  });
}
