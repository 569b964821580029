import { endpoint } from './endpoint.js';
import { inPortfolio } from './pages.js';

/** Something that goes wrong just now, in words for those who work here. */
export interface TroubleView {
  readonly words: string;
  /** Since when, in milliseconds since 1970; `null` where it was noticed just now. */
  readonly since: number | null;
}

export const troubles = {
  troubles: endpoint<readonly TroubleView[]>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/troubles',
    who: 'read',
    summary: 'What goes wrong just now: disks, damaged pages, clocks, publishing that has to wait',
    params: inPortfolio,
  }),
};
