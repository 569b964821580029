import { api } from '@domatium/contracts';
import { parseInstant, type Instant } from '@domatium/core/time';
import type { Features } from '../../platform/http/feature.js';
import { waysOfSite } from '../../heart/publishing/index.js';
import { zoneOf } from '../../heart/releases/index.js';
import { stockHeld } from '../../heart/stock/index.js';
import { choices } from '../visits/index.js';
import { framedPages } from './framed.js';
import * as service from './service.js';
import * as views from './views.js';

/** Figures about choices are of so many days. */
const CHOICE_DAYS = 30;

export function routes({ on }: Features): void {
  on(api.stock, ({ context, portfolioId }) => views.stock(context, portfolioId));
  on(api.stockHeld, ({ context, portfolioId, query }) =>
    stockHeld(context, portfolioId, parseInstant(query.at) as Instant),
  );
  on(api.framedPages, ({ context, portfolioId, query }) =>
    framedPages(context, portfolioId, parseInstant(query.at) as Instant),
  );
  on(api.choices, async ({ context, portfolioId }) => {
    const { database, now } = context;
    return choices(database, portfolioId, await zoneOf(database, portfolioId), now, CHOICE_DAYS);
  });
  on(api.siteWays, async ({ context, portfolioId, query }) => ({
    nav: await waysOfSite(context.database, portfolioId, query.siteId, parseInstant(query.at) as Instant),
  }));
  on(api.newStock, ({ context, portfolioId, body }) => service.newStock(context, portfolioId, body));
  on(api.stockItem, ({ context, portfolioId, params }) => views.stockItem(context, portfolioId, params.itemId));
  on(api.saveStock, ({ context, portfolioId, params, body }) =>
    service.saveStock(context, portfolioId, params.itemId, body),
  );
  on(api.removeStock, ({ context, portfolioId, params }) => service.removeStock(context, portfolioId, params.itemId));
}
