import { object, string } from 'yup';
import { endpoint } from './endpoint.js';
import { id } from './fields.js';
import { inPortfolio } from './pages.js';

/** How long own HTML may be, in characters: as in the block that holds it. */
const MAX_OWN_HTML = 100_000;

export const ownHtml = {
  showOwnHtml: endpoint<{ readonly key: string }>()({
    method: 'POST',
    path: '/api/portfolios/:portfolioId/own-html',
    who: 'read',
    summary: 'Keep own HTML for a while, to be shown running beside the canvas',
    params: inPortfolio,
    body: object({ markup: string().max(MAX_OWN_HTML).required() }),
  }),
  ownHtmlFile: endpoint<never>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/own-html/:key',
    who: 'read',
    summary: 'Own HTML that was kept, on an origin of its own',
    params: object({
      portfolioId: id(),
      key: string()
        .matches(/^[0-9a-f]{64}$/)
        .required(),
    }),
    answers: 'bytes',
  }),
};
