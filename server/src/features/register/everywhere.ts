import type { PageAnywhere } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import type { PortfolioId } from '@domatium/core/plan';
import {
  questionOf,
  rowOf,
  rowState,
  shownPeriod,
  STATE_FILTERS,
  tableOf,
  viewOf,
  type StateFilter,
} from '@domatium/core/register';
import type { Context } from '../../platform/database/context.js';
import { register } from './service.js';

/** As many as are told at once: whoever looks for more says more of it. */
const MOST = 200;

interface Place {
  readonly id: PortfolioId;
  readonly name: string;
  readonly zone: string;
}

/**
 * Pages of several portfolios that a find and a state leave, by the same functions as the list of one: what is called so
 * first, then the last changed.
 */
export async function everywhere(
  context: Context,
  portfolios: readonly Place[],
  { find, state }: { readonly find: string; readonly state: StateFilter },
): Promise<{ pages: PageAnywhere[]; all: number; states: Record<StateFilter, number> }> {
  const { now } = context;
  const states = Object.fromEntries(STATE_FILTERS.map((filter) => [filter, 0])) as Record<StateFilter, number>;
  const found: { readonly rank: number; readonly page: PageAnywhere }[] = [];
  let all = 0;
  for (const { id, name, zone } of portfolios) {
    const table = tableOf((await register(context, id)).columns);
    const { rows, counts } = viewOf(table, questionOf({ find, state }, table.columns, { at: now, now }));
    for (const filter of STATE_FILTERS) states[filter] += counts.states[filter];
    all += rows.length;
    // They come in their order: more than are told of each can't be among those told.
    [...rows.slice(0, MOST)].forEach((row, rank) => {
      const page = rowOf(table, row, now);
      const period = shownPeriod(page.periods, now);
      found.push({
        rank: find ? rank : 0,
        page: {
          ...{ portfolioId: id, portfolio: name, id: page.id, name: page.name, host: page.host, zone },
          ...{ path: readablePath(page.path), state: rowState(page, now) as PageAnywhere['state'] },
          ...{ from: period?.from ?? null, until: period?.until ?? null },
          ...{ visits: page.visits, owner: page.owner, changedAt: page.changedAt },
        },
      });
    });
  }
  const pages = found
    .sort((a, b) => a.rank - b.rank || b.page.changedAt - a.page.changedAt || a.page.id - b.page.id)
    .slice(0, MOST)
    .map(({ page }) => page);
  return { pages, all, states };
}
