import { api, type PictureView } from '@domatium/contracts';
import { rowsOf } from '../database/context.js';
import type { Features } from '../http/app.js';
import { NotFoundError } from '../http/problem.js';

interface PictureRow extends Omit<PictureView, 'variants'> {
  readonly variants: readonly { readonly width: number; readonly hash: string }[];
}

export function routes({ on, blobs }: Features): void {
  on(api.pictures, async ({ context, portfolioId }) => {
    const rows = await rowsOf<PictureRow>(
      context.database,
      'SELECT id, name, description, width, height, variants FROM picture WHERE portfolio_id = ? ORDER BY name LIMIT 1000',
      [portfolioId],
    );
    return rows.map(({ variants, ...picture }) => ({
      ...picture,
      variants: variants.map(({ width, hash }) => ({
        width,
        src: `/api/portfolios/${portfolioId}/files/${hash}.webp`,
      })),
    }));
  });
  on(api.file, async ({ context, portfolioId, params, response }) => {
    const [hash = '', ending = ''] = params.hash.split('.');
    const isOwn =
      (
        await rowsOf(context.database, 'SELECT 1 FROM picture WHERE portfolio_id = ? AND variants @> ?::jsonb', [
          portfolioId,
          JSON.stringify([{ hash }]),
        ])
      ).length > 0;
    const bytes = isOwn ? await blobs.read('files', hash) : null;
    if (!bytes) throw new NotFoundError('file');
    response.type(ending).setHeader('Cache-Control', 'private, max-age=31536000, immutable').send(bytes);
    return undefined as never;
  });
}
