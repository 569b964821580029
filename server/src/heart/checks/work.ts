import type { Knex } from 'knex';
import type { Work } from '../../platform/work/index.js';
import { checkDrafts } from './service.js';
import * as store from './store.js';

/** Checks drafts soon after they were changed. */
export const checksWork = (database: Knex): Work => ({
  name: 'checks',
  every: 1_000,
  pauses: [1_000, 30_000],
  pending: async () => ((await store.hasUnchecked(database)) ? ['all'] : []),
  run: async () => {
    await checkDrafts(database);
  },
});
