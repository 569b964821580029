import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { api } from '@domatium/contracts';
import type { ViewParts } from '@domatium/core/register';
import { parseInstant } from '@domatium/core/time';
import { stringify } from 'csv-stringify';
import type { Features } from '../../platform/http/feature.js';
import * as service from './service.js';

/** Fields that are not set are left out. */
const partsOf = (fields: object): ViewParts =>
  Object.fromEntries(Object.entries(fields).filter(([name, value]) => name !== 'at' && typeof value === 'string'));

export function routes({ on }: Features): void {
  on(api.exportCsv, async ({ context, portfolioId, query, response }) => {
    const rows = service.exported(context, portfolioId, partsOf(query), parseInstant(query.at ?? '') ?? context.now);
    response.attachment('pages.csv').type('text/csv; charset=utf-8');
    const csv = stringify({
      header: true,
      // Programs for tables take it for what it is.
      bom: true,
      columns: [...service.EXPORTED],
      escape_formulas: true,
      record_delimiter: 'windows',
    });
    await pipeline(Readable.from(rows), csv, response);
    return undefined as never;
  });
  on(api.exportJson, async ({ context, portfolioId, query, response }) => {
    const rows = service.exported(
      context,
      portfolioId,
      partsOf(query),
      parseInstant(query.at ?? '') ?? context.now,
      false,
    );
    response.attachment('pages.json').type('application/json');
    await pipeline(Readable.from(jsonArray(rows)), response);
    return undefined as never;
  });
  on(api.namedViews, ({ context, portfolioId }) => service.namedViews(context, portfolioId));
  on(api.nameView, ({ context, portfolioId, body }) =>
    service.nameView(context, portfolioId, { ...body, parts: partsOf(body.parts) }),
  );
  on(api.removeView, ({ context, portfolioId, params }) =>
    service.removeOwn(context, 'named_view', portfolioId, params.viewId),
  );
  on(api.feeds, ({ context, portfolioId }) => service.feeds(context, portfolioId));
  on(api.newFeed, ({ context, portfolioId, body }) =>
    service.newFeed(context, portfolioId, { name: body.name, parts: partsOf(body.parts) }),
  );
  on(api.removeFeed, ({ context, portfolioId, params }) =>
    service.removeOwn(context, 'calendar_feed', portfolioId, params.feedId),
  );
  on(api.calendar, async ({ context, params, response }) => {
    const text = await service.calendar(context, params.token);
    response.type('text/calendar; charset=utf-8').setHeader('Cache-Control', 'private, max-age=300').send(text);
    return undefined as never;
  });
}

async function* jsonArray(rows: AsyncIterable<object>): AsyncGenerator<string> {
  let opening = '[';
  for await (const row of rows) {
    yield `${opening}\n${JSON.stringify(row)}`;
    opening = ',';
  }
  yield opening === '[' ? '[]\n' : '\n]\n';
}
