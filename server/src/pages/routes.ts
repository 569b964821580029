import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import type { Features } from '../http/app.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.newPage, ({ context, portfolioId, body }) => service.newPage(context, portfolioId, body));
  on(api.sheet, ({ context, portfolioId, params }) => service.sheet(context, portfolioId, params.pageId as PageId));
  on(api.rename, ({ context, portfolioId, params, body }) =>
    service.rename(context, portfolioId, params.pageId, body.name, body.version),
  );
  on(api.history, ({ context, portfolioId, params }) => service.history(context, portfolioId, params.pageId as PageId));
  on(api.addressCheck, ({ context, portfolioId, query }) =>
    service.addressCheck(context, portfolioId, query.siteId, query.path, query.pageId ?? null),
  );
}
