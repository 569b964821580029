import { api } from '@domatium/contracts';
import { parseInstant } from '@domatium/core/time';
import type { Features } from '../../platform/http/feature.js';
import { accept, accepted, withdraw } from './acceptance.js';
import { mendDrafts, toFix } from './service.js';

export function routes({ on }: Features): void {
  on(api.toFix, ({ context, portfolioId, query }) => toFix(context, portfolioId, parseInstant(query.at ?? '')));
  on(api.accepted, ({ context, portfolioId }) => accepted(context, portfolioId));
  on(api.acceptFinding, ({ context, portfolioId, body }) => accept(context, portfolioId, body));
  on(api.withdrawAcceptance, ({ context, portfolioId, params }) => withdraw(context, portfolioId, params.acceptanceId));
  on(api.mendDrafts, ({ context, portfolioId, body: { pageIds, seen, ...what } }) =>
    mendDrafts(context, portfolioId, what, pageIds, seen),
  );
}
