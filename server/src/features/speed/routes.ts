import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on, blobs }: Features): void {
  on(api.weight, async ({ context, portfolioId, params }) => ({
    view: await service.weight(context, blobs, portfolioId, params.pageId as PageId),
  }));
}
