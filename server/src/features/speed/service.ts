import type { WeightView } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import {
  budgetOf,
  fetchedFiles,
  namedFiles,
  PATIENCE,
  PHONE,
  secondsToLoad,
  SLOW_PHONE,
  totalOf,
  weightOf,
} from '@domatium/core/speed';
import { unpackArtifact, type BlobStore } from '@domatium/storage';
import type { Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import * as store from './store.js';

/** What a page weighs as it is sent now: the stored artifact and the files it names, never a fresh render. */
export async function weight(
  { database, now }: Context,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  pageId: PageId,
): Promise<WeightView | null> {
  if (!(await store.pageExists(database, portfolioId, pageId))) throw new NotFoundError();
  const artifact = await store.liveArtifact(database, portfolioId, pageId, now);
  const packed = artifact && (await blobs.read('pages', artifact));
  if (!packed) return null;
  const { identity, br } = unpackArtifact(packed);
  const fetched = fetchedFiles(namedFiles(identity.toString()), PHONE);
  const sizes = new Map(
    await Promise.all([...fetched.keys()].map(async (src) => [src, await blobs.size('files', hashIn(src))] as const)),
  );
  const sum = weightOf(br.length, fetched, (src) => sizes.get(src) ?? 0);
  const total = totalOf(sum);
  return {
    weight: sum,
    total,
    budget: budgetOf(SLOW_PHONE, PATIENCE),
    seconds: secondsToLoad(total, SLOW_PHONE),
    patience: PATIENCE,
  };
}

/** The hash in a public file's address. */
const hashIn = (src: string) => /[0-9a-f]{64}/.exec(src)?.[0] ?? '';
