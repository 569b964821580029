import { log } from '@domatium/storage';
import { randomUUID } from 'node:crypto';
import type { PortfolioId, ReleaseId } from '@domatium/core/plan';
import { DAY } from '@domatium/core/time';
import { rowsOf, type Context } from '../../platform/database/context.js';
import { notifyEvent } from '../../platform/events/index.js';
import { undo } from '../releases/index.js';
import { isTrouble, regularWork, type Work } from '../../platform/work/index.js';
import { healLacks } from './heal.js';
import { outWork } from './out.js';
import type { Publisher } from './publication.js';
import { dueFramesWork, reframeWork } from './reframe.js';
import { publishReleases } from './service.js';
import { noteFailure, openReleases, portfoliosWithOpenReleases } from './store.js';
import { readyYears } from './years.js';
import { say } from '@domatium/core/words/answers/publishing';

export const PUBLICATION = 'publication';

/** Makes ready for visitors what was decided, portfolio by portfolio; makes anew what an edge lacks; and years that come. */
export function publishingWork(publisher: Publisher): Work[] {
  const { database } = publisher;
  return [
    {
      name: PUBLICATION,
      every: 2_000,
      pauses: [500, 60_000],
      words: say.releasesCantBePublishedRightNow,
      pending: async () => (await portfoliosWithOpenReleases(database)).map((row) => String(row.portfolio_id)),
      run: (key) => publishOpen(publisher, Number(key) as PortfolioId),
    },
    {
      name: 'heal',
      every: 5_000,
      pauses: [1_000, 60_000],
      pending: async () => ((await rowsOf(database, 'SELECT FROM edge_lack LIMIT 1')).length ? ['all'] : []),
      run: async () => {
        await healLacks(publisher);
        // The edges find what was made anew the next time they compare.
        await new Promise((done) => setTimeout(done, 2_000));
      },
    },
    outWork(database),
    reframeWork(publisher),
    dueFramesWork(publisher),
    regularWork('years', DAY, () => readyYears(publisher)),
  ];
}

async function publishOpen(publisher: Publisher, portfolioId: PortfolioId): Promise<void> {
  try {
    await publishReleases(publisher, portfolioId, null);
  } catch (error) {
    if (isTrouble(error)) throw error;
    const ids = (await openReleases(publisher.database, portfolioId)).map(({ id }) => id);
    // What can't be rendered together is tried one by one, so that one bad release does not hold up the others.
    for (const id of ids) await publishAlone(publisher, portfolioId, id);
  }
}

async function publishAlone(publisher: Publisher, portfolioId: PortfolioId, releaseId: ReleaseId): Promise<void> {
  try {
    await publishReleases(publisher, portfolioId, [releaseId], true);
  } catch (error) {
    if (isTrouble(error)) throw error;
    log.error({ err: error, release: releaseId, portfolio: portfolioId }, 'a release can’t be rendered');
    await giveUp(publisher, portfolioId, releaseId, error instanceof Error ? error.message : String(error));
  }
}

/** Design section 5.4: a release that can't be rendered is undone from that moment, and says so. An undo is not undone by itself. */
async function giveUp(
  { database, style, clock }: Publisher,
  portfolioId: PortfolioId,
  releaseId: ReleaseId,
  why: string,
): Promise<void> {
  const context: Context = { database, style, account: null, now: clock(), clock };
  await noteFailure(database, [releaseId], why);
  const [row] = await rowsOf<{ undoes_id: ReleaseId | null }>(database, 'SELECT undoes_id FROM release WHERE id = ?', [
    releaseId,
  ]);
  if (row?.undoes_id === null) await undo(context, portfolioId, releaseId, `failed-${randomUUID()}`, false);
  await notifyEvent(database, { portfolioId, kind: 'failed', releaseId });
}
