import { api } from '@domatium/contracts';
import type { PageId } from '@domatium/core/plan';
import { parseInstant, type Instant } from '@domatium/core/time';
import type { Features } from '../../platform/http/feature.js';
import { arrange } from './arrange.js';
import { seen, seenPage } from './seen.js';
import { deletePages } from './delete.js';
import { setTemplate, templates } from './templates.js';
import * as service from './service.js';

export function routes({ on, blobs }: Features): void {
  on(api.newPage, ({ context, portfolioId, body }) => service.newPage(context, portfolioId, body));
  on(api.sheet, ({ context, portfolioId, params, query }) =>
    service.sheet(context, portfolioId, params.pageId as PageId, parseInstant(query.at ?? '') ?? context.now),
  );
  on(api.seen, async ({ context, portfolioId, params, query }) => {
    const { stored: _, ...view } = await seen(
      context,
      portfolioId,
      params.pageId as PageId,
      parseInstant(query.at) as Instant,
    );
    return view;
  });
  on(api.seenPage, async ({ context, portfolioId, params, query, response }) => {
    const at = parseInstant(query.at) as Instant;
    const { html, origin } = await seenPage(context, blobs, portfolioId, params.pageId as PageId, at);
    response
      .setHeader(
        'Content-Security-Policy',
        `sandbox allow-popups; default-src 'none'; img-src ${origin}; style-src ${origin}; font-src ${origin}; base-uri ${origin}; frame-ancestors 'self'`,
      )
      .setHeader('Cache-Control', 'private, no-store')
      .type('html')
      .send(html);
    return undefined as never;
  });
  on(api.rename, ({ context, portfolioId, params, body }) =>
    service.rename(context, portfolioId, params.pageId, body.name, body.version),
  );
  on(api.arrange, ({ context, portfolioId, body }) => arrange(context, portfolioId, body));
  on(api.deletePages, ({ context, portfolioId, body }) =>
    deletePages(context, portfolioId, body.pages, body.confirmation),
  );
  on(api.templates, ({ context, portfolioId }) => templates(context, portfolioId));
  on(api.setTemplate, ({ context, portfolioId, params, body }) =>
    setTemplate(context, portfolioId, params.pageId, body),
  );
  on(api.history, ({ context, portfolioId, params }) => service.history(context, portfolioId, params.pageId as PageId));
  on(api.addressCheck, ({ context, portfolioId, query }) =>
    service.addressCheck(context, portfolioId, query.siteId, query.path, query.pageId ?? null),
  );
}
