import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { NotFoundError } from '../../platform/errors.js';
import { preview } from './preview.js';
import { release, releaseOfKey } from './service.js';
import { undo } from './undo.js';
import { releaseById } from './store.js';

export function routes({ on }: Features): void {
  on(api.preview, ({ context, portfolioId, body }) => preview(context, portfolioId, body));
  on(api.release, ({ context, portfolioId, body }) => release(context, portfolioId, body));
  on(api.undo, ({ context, portfolioId, params, body }) =>
    undo(context, portfolioId, params.releaseId, body.idempotencyKey, body.leavesRedirect),
  );
  on(api.releaseOfKey, ({ context, portfolioId, params }) => releaseOfKey(context, portfolioId, params.key));
  on(api.releaseState, async ({ context, portfolioId, params }) => {
    const row = await releaseById(context.database, portfolioId, params.releaseId);
    if (!row) throw new NotFoundError('release');
    return { id: row.id, outAt: row.out_at, failure: row.failure };
  });
}
