import { api } from '@domatium/contracts';
import { APART_POLICY } from '@domatium/core/render';
import { sha256 } from '@domatium/storage';
import { LRUCache } from 'lru-cache';
import { NotFoundError } from '../../platform/errors.js';
import type { Features } from '../../platform/http/feature.js';

/** What is typed is shown and soon typed anew: so many characters of it are kept at a time. */
const MOST_KEPT = 8_000_000;
const kept = new LRUCache<string, string>({
  maxSize: MOST_KEPT,
  sizeCalculation: (markup) => markup.length + 1,
  ttl: 3_600_000,
});

/** Own HTML while it is worked on: the canvas runs no script, so it runs in a frame beside it, served as visitors get it. */
export function routes({ on }: Features): void {
  on(api.showOwnHtml, ({ portfolioId, body }) => {
    const key = sha256(Buffer.from(body.markup));
    kept.set(`${portfolioId} ${key}`, body.markup);
    return Promise.resolve({ key });
  });
  on(api.ownHtmlFile, ({ portfolioId, params, response }) => {
    const markup = kept.get(`${portfolioId} ${params.key}`);
    if (markup === undefined) throw new NotFoundError();
    response
      .type('html')
      .setHeader('Content-Security-Policy', `${APART_POLICY}; frame-ancestors 'self'`)
      .setHeader('Cache-Control', 'private, no-store')
      .send(markup);
    return Promise.resolve(undefined as never);
  });
}
