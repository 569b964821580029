import type { PageWeight } from '@domatium/core/speed';
import { endpoint } from './endpoint.js';
import { onPage } from './pages.js';

/** What the page that is live now weighs on a phone, and what it may weigh. */
export interface WeightView {
  readonly weight: PageWeight;
  readonly total: number;
  readonly budget: number;
  /** Seconds until all of it is there on a slow phone, and within how many it should be. */
  readonly seconds: number;
  readonly patience: number;
}

export const speed = {
  weight: endpoint<{ view: WeightView | null }>()({
    method: 'GET',
    path: '/api/portfolios/:portfolioId/pages/:pageId/weight',
    who: 'read',
    summary: 'What a live page weighs against its budget; null where it is not live',
    params: onPage,
  }),
};
