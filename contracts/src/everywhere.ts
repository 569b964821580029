import { STATE_FILTERS, type StateFilter } from '@domatium/core/register';
import { object, string } from 'yup';
import { endpoint } from './endpoint.js';

/** A page of any portfolio one works in. */
export interface PageAnywhere {
  readonly portfolioId: number;
  readonly portfolio: string;
  readonly id: number;
  readonly name: string;
  readonly host: string;
  readonly path: string;
  readonly state: 'live' | 'coming' | 'ended' | 'draft';
  /** The period that holds now, or else the next, or else the last; on the clock of its portfolio. */
  readonly from: number | null;
  readonly until: number | null;
  readonly zone: string;
  readonly visits: number;
  readonly owner: string | null;
  readonly changedAt: number;
}

export const everywhere = {
  everywhere: endpoint<{
    readonly pages: readonly PageAnywhere[];
    /** How many there are, of which `pages` are the first. */
    readonly all: number;
    readonly states: Readonly<Record<StateFilter, number>>;
  }>()({
    method: 'GET',
    path: '/api/pages',
    who: 'signed-in',
    summary: 'Pages of all portfolios one works in, by name, address and state',
    query: object({
      find: string().max(200).default(''),
      state: string()
        .oneOf([...STATE_FILTERS])
        .default('all'),
    }),
  }),
};
