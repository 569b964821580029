import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { NotFoundError } from '../http/problem.js';
import { picturesWith, sendPicture } from './service.js';

export function routes({ on, blobs }: Features): void {
  on(api.pictures, ({ context, portfolioId }) =>
    picturesWith(context.database, portfolioId, `/api/portfolios/${portfolioId}/files`),
  );
  on(api.file, async ({ context, portfolioId, params, response }) => {
    if (!(await sendPicture(context.database, blobs, portfolioId, params.hash, response)))
      throw new NotFoundError('file');
    return undefined as never;
  });
}
