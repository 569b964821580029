import { api } from '@domatium/contracts';
import type { Features } from '../http/app.js';
import { NotFoundError } from '../http/problem.js';
import * as service from './service.js';

export function routes({ on, blobs }: Features): void {
  on(api.pictures, ({ context, portfolioId }) => service.picturesWith(context.database, portfolioId));
  on(api.files, ({ context, portfolioId }) => service.filesOf(context, portfolioId));
  on(api.receive, ({ context, portfolioId, query, request }) =>
    service.receive(context, blobs, portfolioId, {
      name: query.name,
      replaces: query.replaces ?? null,
      stream: request,
    }),
  );
  on(api.setPicture, ({ context, portfolioId, params, body }) =>
    service.setPicture(context, portfolioId, params.pictureId, body),
  );
  on(api.pictureUses, ({ context, portfolioId, params }) =>
    service.pictureUses(context, portfolioId, params.pictureId),
  );
  on(api.crop, ({ context, portfolioId, params, body }) => service.crop(context, portfolioId, params.pictureId, body));
  on(api.deletePicture, ({ context, portfolioId, params }) =>
    service.deletePicture(context, portfolioId, params.pictureId),
  );
  on(api.siteFace, ({ context, portfolioId, params }) =>
    service.siteFace(context.database, portfolioId, params.siteId),
  );
  on(api.setSiteFace, ({ context, portfolioId, params, body }) =>
    service.setSiteFace(context, portfolioId, params.siteId, body),
  );
  on(api.file, async ({ context, portfolioId, params, response }) => {
    if (!(await service.sendPicture(context.database, blobs, portfolioId, params.hash, response)))
      throw new NotFoundError('file');
    return undefined as never;
  });
}
