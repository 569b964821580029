import { api, mayAct } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import { Refused } from '../../platform/errors.js';
import * as service from './service.js';
import { say } from '@domatium/core/words/answers/imports';

export function routes({ on }: Features): void {
  on(api.importPreview, ({ context, portfolioId, body }) => service.importPreview(context, portfolioId, body.rows));
  on(api.importRows, ({ context, portfolioId, body, role }) => {
    if (body.rows.some(({ from }) => from) && !(role && mayAct(role, 'release')))
      throw new Refused('not-allowed', say.rowsWithAStartChangeWhat);
    return service.importRows(context, portfolioId, body.rows, body.idempotencyKey);
  });
}
