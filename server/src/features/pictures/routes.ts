import { api } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { NotFoundError } from '../../platform/errors.js';
import * as files from './files.js';
import * as service from './service.js';

export function routes({ on, blobs, reader, quota }: Features): void {
  on(api.pictures, ({ context, portfolioId }) => service.picturesWith(context.database, portfolioId));
  on(api.files, ({ context, portfolioId }) => files.filesOf(context, portfolioId));
  on(api.receive, ({ context, portfolioId, query, role, request }) =>
    service.receive(context, { reader, blobs, quota }, portfolioId, {
      name: query.name,
      replaces: query.replaces ?? null,
      replacesFile: query.replacesFile ?? null,
      description: query.description,
      role,
      stream: request,
    }),
  );
  on(api.setPicture, ({ context, portfolioId, params, body }) =>
    service.setPicture(context, portfolioId, params.pictureId, body),
  );
  on(api.pictureUses, ({ context, portfolioId, params, role }) =>
    service.pictureUses(context, portfolioId, params.pictureId, role),
  );
  on(api.putBackPicture, ({ context, portfolioId, params, body, role }) =>
    service.putBack(context, portfolioId, params.pictureId, { version: body.version, role }),
  );
  on(api.takePicture, ({ context, portfolioId, params, body, role }) => {
    const place = { id: params.pictureId, role, description: body.description };
    return service.takePicture(context, portfolioId, place, body.from);
  });
  on(api.crop, ({ context, portfolioId, params, body }) => service.crop(context, portfolioId, params.pictureId, body));
  on(api.deletePicture, ({ context, portfolioId, params }) =>
    service.deletePicture(context, portfolioId, params.pictureId),
  );
  on(api.fileUses, ({ context, portfolioId, params, role }) =>
    files.fileUses(context, portfolioId, params.fileId, role),
  );
  on(api.setFile, ({ context, portfolioId, params, body }) => files.setFile(context, portfolioId, params.fileId, body));
  on(api.putBackFile, ({ context, portfolioId, params, body, role }) =>
    files.putBackFile(context, portfolioId, params.fileId, { version: body.version, role }),
  );
  on(api.takeFile, ({ context, portfolioId, params, body, role }) =>
    files.takeFile(context, portfolioId, params.fileId, { from: body.from, role }),
  );
  on(api.deleteFile, ({ context, portfolioId, params }) => files.deleteFile(context, portfolioId, params.fileId));
  on(api.file, async ({ context, portfolioId, params, response }) => {
    if (!(await service.sendPicture(context.database, blobs, portfolioId, params.hash, response)))
      throw new NotFoundError('file');
    return undefined as never;
  });
}
