import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { draft, saveDraft } from './service.js';

export function routes({ on }: Features): void {
  on(api.draft, ({ context, portfolioId, params }) => draft(context, portfolioId, params.pageId));
  on(api.saveDraft, ({ context, portfolioId, params, body }) =>
    saveDraft(context, portfolioId, params.pageId, body.version, body.document),
  );
}
