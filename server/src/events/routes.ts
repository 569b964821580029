import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';

export function routes({ on, hub }: Features): void {
  on(api.events, ({ portfolioId, response }) => {
    hub.add(portfolioId, response);
    return Promise.resolve(undefined as never);
  });
}
