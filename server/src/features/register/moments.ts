import { readablePath } from '@domatium/core/address';
import { addressAt, type PageId, type PortfolioId } from '@domatium/core/plan';
import {
  addressOf,
  differencesBetween,
  rowOf,
  tableOf as registerTableOf,
  type Difference,
  type Scope,
} from '@domatium/core/register';
import { resolutionWords, resolve } from '@domatium/core/routing';
import { say } from '@domatium/core/words/answers/register';
import { isoInstant, type Instant } from '@domatium/core/time';
import { stringify } from 'csv-stringify/sync';
import { inTransaction, type Context } from '../../platform/database/context.js';
import { neighbourhoodOf, tableOf } from '../../heart/plans/index.js';
import { namesOfPages, revisionNumbers } from '../../heart/releases/index.js';
import { register } from './service.js';
import { UNNAMED } from '@domatium/core/words';

/** Pages whose surroundings are read at a time. */
const BATCH = 200;

/** What the addresses of pages give at a moment, in words. */
export async function givenAt(
  { database, style }: Context,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  at: Instant,
): Promise<Map<PageId, string>> {
  const given = new Map<PageId, string>();
  for (let first = 0; first < pageIds.length; first += BATCH)
    await inTransaction(
      database,
      async (db) => {
        const batch = pageIds.slice(first, first + BATCH);
        const around = await neighbourhoodOf({ db, portfolioId, style }, batch);
        const routes = tableOf(around);
        const names = await namesOfPages(db, portfolioId, [...around.plans.keys()]);
        const numbers = await revisionNumbers(
          db,
          [...around.plans.values()].flatMap(({ periods }) => periods.map(({ revisionId }) => revisionId)),
        );
        for (const id of batch) {
          const plan = around.plans.get(id);
          const place = plan && addressAt(plan, at, around.siteAddresses);
          if (!place) continue;
          const answer = resolve(routes, { host: around.hosts.get(place.hostId) ?? '', path: place.path }, at);
          const words = resolutionWords(answer, {
            page: (page) => names.get(page) ?? UNNAMED.page,
            revision: (revision) => numbers.get(revision) ?? '',
          });
          given.set(id, words);
        }
      },
      'repeatable read',
    );
  return given;
}

const KINDS: Record<Difference['kind'], string> = {
  comes: say.goesLive,
  goes: say.comesOff,
  revision: say.changesRevision,
  address: say.moves,
};

/** What is different between two moments, as CSV with a head line; formulas are escaped. */
export async function differenceFile(
  context: Context,
  portfolioId: PortfolioId,
  scope: Scope,
  [a, b]: readonly [Instant, Instant],
): Promise<string> {
  const between = a < b ? ([a, b] as const) : ([b, a] as const);
  const table = registerTableOf((await register(context, portfolioId)).columns);
  const differences = differencesBetween(table, scope, between);
  const going = differences.filter(({ kind }) => kind === 'goes').map(({ row }) => table.columns.ids[row] as PageId);
  const instead = await givenAt(context, portfolioId, going, between[1]);
  return stringify(
    differences.map(({ row, kind, at, revisions }) => {
      const page = rowOf(table, row, between[1]);
      const [before, after] = between.map((moment) =>
        addressOf(table, row, moment).replace(/\/.*/, (path) => readablePath(path)),
      );
      return {
        when: isoInstant(at as Instant),
        what: KINDS[kind],
        page: page.name,
        'address before': before,
        'address after': after,
        'revision before': revisions[0] || '',
        'revision after': revisions[1] || '',
        instead: instead.get(page.id as PageId) ?? '',
      };
    }),
    { header: true, columns: FILE_COLUMNS, escape_formulas: true, record_delimiter: 'windows' },
  );
}

const FILE_COLUMNS = [
  'when',
  'what',
  'page',
  'address before',
  'address after',
  'revision before',
  'revision after',
  'instead',
];
