import { api, type TroubleView } from '@domatium/contracts';
import { rowsOf } from '../../platform/database/context.js';
import type { Features } from '../../platform/http/feature.js';

export function routes({ on, health }: Features): void {
  on(api.troubles, async ({ context, portfolioId }) => {
    const rows = await rowsOf<TroubleView>(
      context.database,
      'SELECT words, since FROM trouble WHERE portfolio_id IS NULL OR portfolio_id = ? ORDER BY since',
      [portfolioId],
    );
    return [...rows, ...(health?.own() ?? []).map((words) => ({ words, since: null }))];
  });
}
