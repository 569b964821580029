import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { mendDrafts, toFix } from './service.js';

export function routes({ on }: Features): void {
  on(api.toFix, ({ context, portfolioId }) => toFix(context, portfolioId));
  on(api.mendDrafts, ({ context, portfolioId, body: { pageIds, seen, ...what } }) =>
    mendDrafts(context, portfolioId, what, pageIds, seen),
  );
}
