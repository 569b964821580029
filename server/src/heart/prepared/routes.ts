import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.preparedReleases, ({ context, portfolioId }) => service.preparedReleases(context, portfolioId));
  on(api.prepare, ({ context, portfolioId, body }) => service.prepare(context, portfolioId, body));
  on(api.changePrepared, ({ context, portfolioId, params, body }) =>
    service.changePrepared(context, portfolioId, params.preparedId, body.version, body),
  );
  on(api.pressPrepared, ({ context, portfolioId, params, body }) =>
    service.pressPrepared(context, portfolioId, params.preparedId, body.version, body.idempotencyKey),
  );
  on(api.approvePrepared, ({ context, portfolioId, params, body }) =>
    service.approvePrepared(context, portfolioId, params.preparedId, body.version),
  );
  on(api.sayOfPrepared, ({ context, portfolioId, params, body }) =>
    service.sayOf(context, portfolioId, params.preparedId, body),
  );
  on(api.dropPrepared, ({ context, portfolioId, params, body }) =>
    service.dropPrepared(context, portfolioId, params.preparedId, body.version),
  );
}
