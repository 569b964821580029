import { api, mayAct } from '@domatium/contracts';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.importPreview, ({ context, portfolioId, body }) => service.importPreview(context, portfolioId, body.rows));
  on(api.importRows, ({ context, portfolioId, body, role }) => {
    const mayRelease = role !== null && role !== undefined && mayAct(role, 'release');
    return service.importRows(context, portfolioId, body.rows, body.idempotencyKey, mayRelease);
  });
}
