import { api, idsIn } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import type { Features } from '../../platform/http/feature.js';
import { parseInstant, type Instant } from '@domatium/core/time';
import { scopeOf } from '@domatium/core/register';
import { everywhere } from './everywhere.js';
import { differenceFile, givenAt } from './moments.js';
import { lines, register } from './service.js';
import { alikePages } from './alike.js';
import { pagesWithText, titlesAt } from './store.js';

export function routes({ on }: Features): void {
  on(api.register, ({ context, portfolioId, query }) =>
    register(context, portfolioId, query.pages ? (idsIn(query.pages) as PageId[]) : null),
  );
  on(api.everywhere, ({ context, query, signedIn }) =>
    everywhere(
      context,
      (signedIn?.memberships ?? []).flatMap(({ id, name, zone, wants_factor }) =>
        wants_factor && !signedIn?.hasFactor ? [] : [{ id: id as PortfolioId, name, zone }],
      ),
      { find: query.find, state: query.state },
    ),
  );
  on(api.registerLines, ({ context, portfolioId, query }) =>
    lines(context, portfolioId, idsIn(query.pages) as PageId[]),
  );
  on(api.registerFound, async ({ context, portfolioId, query }) => ({
    pages: await pagesWithText(context.database, portfolioId, query.text),
  }));
  on(api.registerGiven, async ({ context, portfolioId, query }) => [
    ...(await givenAt(context, portfolioId, idsIn(query.pages) as PageId[], parseInstant(query.at) as Instant)),
  ]);
  on(api.titles, ({ context, portfolioId, query }) =>
    titlesAt(context.database, portfolioId, idsIn(query.pages) as PageId[], parseInstant(query.at) as Instant),
  );
  on(api.alike, ({ context, portfolioId, query: { page, title, description, phrases } }) => {
    const asked = { page: page as PageId, title, description, phrases: phrases.split('\n').filter(Boolean) };
    return alikePages(context.database, portfolioId, asked, context.now);
  });
  on(api.differenceFile, async ({ context, portfolioId, query, response }) => {
    const between = [parseInstant(query.from) as Instant, parseInstant(query.until) as Instant] as const;
    const file = await differenceFile(context, portfolioId, scopeOf(query.scope ?? ''), between);
    response.attachment('difference.csv').type('text/csv; charset=utf-8').send(file);
    return undefined as never;
  });
}
