import { api } from '@domatium/contracts';
import { parseInstant, type Instant } from '@domatium/core/time';
import type { Features } from '../../platform/http/feature.js';
import { stockHeld } from './held.js';
import * as releases from './releases.js';
import * as service from './service.js';
import * as views from './views.js';

export function routes({ on }: Features): void {
  on(api.stock, ({ context, portfolioId }) => views.stock(context, portfolioId));
  on(api.stockHeld, ({ context, portfolioId, query }) =>
    stockHeld(context, portfolioId, parseInstant(query.at) as Instant),
  );
  on(api.newStock, ({ context, portfolioId, body }) => service.newStock(context, portfolioId, body));
  on(api.stockItem, ({ context, portfolioId, params }) => views.stockItem(context, portfolioId, params.itemId));
  on(api.saveStock, ({ context, portfolioId, params, body }) =>
    service.saveStock(context, portfolioId, params.itemId, body),
  );
  on(api.releaseStock, ({ context, portfolioId, params, body }) =>
    releases.releaseStock(context, portfolioId, params.itemId, body),
  );
  on(api.approveStock, ({ context, portfolioId, params, body }) =>
    service.approveStock(context, portfolioId, params.itemId, body.version),
  );
  on(api.undoStock, ({ context, portfolioId, params, body }) =>
    releases.undoStock(context, portfolioId, params.itemId, body.idempotencyKey),
  );
  on(api.removeStock, ({ context, portfolioId, params }) => service.removeStock(context, portfolioId, params.itemId));
}
