import type { SeenView } from '@domatium/contracts';
import { absoluteAddress, readablePath } from '@domatium/core/address';
import { addressAt, groupBy, type PageId, type PagePlan, type PortfolioId } from '@domatium/core/plan';
import { isSameResolution, resolutionWords, resolve, type Address, type Resolution } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import type { BlobStore } from '@domatium/storage';
import { inTransaction, type Context, type Db } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { neighbourhoodOf, tableOf, withPlans, type Neighbourhood } from '../../heart/plans/index.js';
import { framedAt, wholePage, type StoredPage } from '../../heart/publishing/index.js';
import { namesOfPages, revisionNumbers } from '../../heart/releases/index.js';
import * as store from './store.js';
import { say } from '@domatium/core/words/answers/pages';
import { UNNAMED } from '@domatium/core/words';

interface Seen extends SeenView {
  /** The stored page that was or will be served, with its frame. */
  readonly stored: StoredPage | null;
}

/** What visitors of a page's address got, or will get (design rule 9): the stored answer, never a fresh render. */
export function seen(context: Context, portfolioId: PortfolioId, pageId: PageId, at: Instant): Promise<Seen> {
  return inTransaction(
    context.database,
    async (db) => {
      const around = await neighbourhoodOf({ db, portfolioId, style: context.style }, [pageId]);
      const plan = around.plans.get(pageId);
      const place = plan && addressAt(plan, at, around.siteAddresses);
      if (!place) throw new NotFoundError();
      const host = around.hosts.get(place.hostId) ?? '';
      const address = { host, path: place.path };
      const { answer, late: lateAnswer } = await servedAt(db, around, address, at, context.now);
      const artifact =
        answer.kind === 'page' ? await store.artifactAt(db, { ...place, revisionId: answer.revisionId }, at) : null;
      const framed =
        artifact && answer.kind === 'page' ? await framedAt(db, { ...place, pageId: answer.pageId }, at) : null;
      const stored =
        artifact && framed && answer.kind === 'page' ? { artifact, pageId: answer.pageId, parts: framed.parts } : null;
      const late = lateAnswer ?? framed?.late ?? null;
      const names = await namesOfPages(db, portfolioId, [...around.plans.keys()]);
      const numbers = await revisionNumbers(
        db,
        [...around.plans.values()].flatMap(({ periods }) => periods.map(({ revisionId }) => revisionId)),
      );
      const words = resolutionWords(answer, {
        page: (id) => names.get(id) ?? UNNAMED.page,
        revision: (id) => numbers.get(id) ?? '',
      }).replace(/\/[^\s,]*%[^\s,]*/g, (path) => readablePath(path));
      const why =
        answer.kind !== 'page' || artifact
          ? ''
          : (await store.isDeleted(db, answer.pageId))
            ? say.whatItSaidIsDeleted
            : (await store.isPastKeeping(db, portfolioId, at))
              ? say.whatItSaidIsNotKept
              : '';
      return {
        host,
        path: place.path,
        stored,
        isPage: artifact !== null,
        isLate: late !== null,
        outAt: late?.outAt ?? null,
        words: words + why,
      };
    },
    'repeatable read',
  );
}

/**
 * What the edges served at an address at a moment: until a release is out, whichever page it is of, they serve what the
 * plan was before it. `late` where that is not what was decided by then, with when the last of it was out.
 */
async function servedAt(
  db: Db,
  around: Neighbourhood,
  address: Address,
  at: Instant,
  now: Instant,
): Promise<{ answer: Resolution; late: { outAt: Instant | null } | null }> {
  const decided = resolve(tableOf(around), address, at);
  const waiting = at > now ? [] : await store.releasesNotOutAt(db, around.portfolioId, [...around.plans.keys()], at);
  if (!waiting.length) return { answer: decided, late: null };
  const without = (some: typeof waiting) => {
    const plans = new Map<PageId, PagePlan>();
    for (const { page_id, before } of some) if (!plans.has(page_id)) plans.set(page_id, before);
    return resolve(tableOf(withPlans(around, plans.values())), address, at);
  };
  const answer = without(waiting);
  if (isSameResolution(decided, answer)) return { answer, late: null };
  const releases = [...groupBy(waiting, ({ id }) => id).values()];
  const made = releases.filter((one) => !isSameResolution(decided, without(one)));
  const outs = (made.length ? made : releases).map(([one]) => one?.out_at ?? null);
  return { answer, late: { outAt: outs.includes(null) ? null : (Math.max(...outs.map(Number)) as Instant) } };
}

/** The stored page with the address its files are read from; shown without any right of its own. */
export async function seenPage(
  context: Context,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  pageId: PageId,
  at: Instant,
): Promise<{ html: string; origin: string }> {
  const { stored, host, path } = await seen(context, portfolioId, pageId, at);
  const html = stored && (await wholePage(context.database, blobs, stored));
  if (!html) throw new NotFoundError();
  const base = absoluteAddress(context.style, host, path);
  return { html: html.replace('<head>', `<head><base href="${base}" target="_blank">`), origin: new URL(base).origin };
}
