import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { api, mayAct } from '@domatium/contracts';
import { stringify } from 'csv-stringify';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

export function routes({ on }: Features): void {
  on(api.record, ({ context, portfolioId, query, role }) =>
    service.recordOf(context, portfolioId, query, !!role && mayAct(role, 'manage')),
  );
  on(api.recordCsv, async ({ context, portfolioId, query, role, response }) => {
    const rows = service.recordRows(context, portfolioId, query, !!role && mayAct(role, 'manage'));
    response.attachment('record.csv').type('text/csv; charset=utf-8');
    const csv = stringify({
      ...{ header: true, bom: true, escape_formulas: true, record_delimiter: 'windows' },
      columns: [...service.RECORD_COLUMNS],
    });
    await pipeline(Readable.from(rows), csv, response);
    return undefined as never;
  });
  on(api.undoRecorded, ({ context, portfolioId, params }) =>
    service.undoRecorded(context, portfolioId, params.entryId),
  );
}
