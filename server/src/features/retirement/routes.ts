import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.evidence, ({ context, portfolioId, params }) =>
    service.evidence(context, portfolioId, params.pageId as PageId),
  );
}
