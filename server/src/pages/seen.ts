import type { SeenView } from '@domatium/contracts';
import { absoluteAddress, readablePath } from '@domatium/core/address';
import { addressAt, type PageId, type PortfolioId } from '@domatium/core/plan';
import { resolutionWords, resolve } from '@domatium/core/routing';
import { later, type Instant } from '@domatium/core/time';
import { unpackArtifact, type BlobStore } from '@domatium/storage';
import { inTransaction, type Context } from '../database/context.js';
import { NotFoundError } from '../http/problem.js';
import { neighbourhoodOf, tableOf } from '../plans/index.js';
import { namesOfPages, revisionNumbers } from '../releases/index.js';
import * as store from './store.js';

interface Seen extends SeenView {
  /** The stored page that was or will be served. */
  readonly artifact: string | null;
}

/** What visitors of a page's address got, or will get (design rule 9): the stored answer, never a fresh render. */
export function seen(context: Context, portfolioId: PortfolioId, pageId: PageId, at: Instant): Promise<Seen> {
  return inTransaction(
    context.database,
    async (db) => {
      const around = await neighbourhoodOf(db, portfolioId, [pageId]);
      const plan = around.plans.get(pageId);
      const place = plan && addressAt(plan, at, around.siteAddresses);
      if (!place) throw new NotFoundError();
      // Until a release is out, the edges serve what they served before it.
      const waiting = await store.releaseNotOutAt(db, portfolioId, pageId, at, context.now);
      const served = waiting ? later(waiting.at, -1) : at;
      const host = around.hosts.get(place.hostId) ?? '';
      const answer = resolve(tableOf(around), { host, path: place.path }, served);
      const artifact = answer.kind === 'page' ? await store.artifactAt(db, place.hostId, place.path, served) : null;
      const names = await namesOfPages(db, portfolioId, [...around.plans.keys()]);
      const numbers = await revisionNumbers(
        db,
        [...around.plans.values()].flatMap(({ periods }) => periods.map(({ revisionId }) => revisionId)),
      );
      return {
        host,
        path: place.path,
        artifact,
        isPage: artifact !== null,
        isLate: waiting !== null,
        outAt: waiting?.out_at ?? null,
        words: resolutionWords(answer, {
          page: (id) => names.get(id) ?? 'a page',
          revision: (id) => `revision ${numbers.get(id) ?? ''}`,
        }).replace(/\/[^\s,]*%[^\s,]*/g, (path) => readablePath(path)),
      };
    },
    'repeatable read',
  );
}

/** The stored page with the address its files are read from; shown without any right of its own. */
export async function seenPage(
  context: Context,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
): Promise<{ html: string; origin: string }> {
  const { artifact, host, path } = await seen(context, portfolioId, pageId, at);
  const packed = artifact && (await blobs.read('pages', artifact));
  if (!packed) throw new NotFoundError();
  const base = absoluteAddress(context.style, host, path);
  const html = unpackArtifact(packed).identity.toString();
  return { html: html.replace('<head>', `<head><base href="${base}" target="_blank">`), origin: new URL(base).origin };
}
