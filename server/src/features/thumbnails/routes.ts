import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import { parseInstant } from '@domatium/core/time';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on, blobs, hasChromium }: Features): void {
  on(api.thumbnail, ({ context, portfolioId, params, query }) => {
    const at = parseInstant(query.at ?? '') ?? context.now;
    return service.thumbnail(context, portfolioId, params.pageId as PageId, at, hasChromium);
  });
  on(api.thumbnailFile, async ({ context, portfolioId, params, query, response }) => {
    const at = parseInstant(query.at) ?? context.now;
    const bytes = await service.thumbnailFile(context, blobs, portfolioId, params.pageId as PageId, at);
    response.type('webp').setHeader('Cache-Control', 'private, max-age=3600').send(bytes);
    return undefined as never;
  });
}
