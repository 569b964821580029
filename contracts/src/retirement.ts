import type { Evidence } from '@domatium/core/retirement';
import { endpoint } from './endpoint.js';
import { onPage } from './pages.js';

export const retirement = {
  evidence: endpoint<readonly Evidence[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/evidence',
    who: 'read',
    summary: 'What speaks for keeping a page or taking it off',
    params: onPage,
  }),
};
