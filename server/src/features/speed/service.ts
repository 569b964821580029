import { promisify } from 'node:util';
import { brotliCompress, constants, type BrotliOptions } from 'node:zlib';
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
import type { BlobStore } from '@domatium/storage';
import type { Context } from '../../platform/database/context.js';
import { NotFoundError } from '../../platform/errors.js';
import { partsAt, wholePage } from '../../heart/publishing/index.js';
import * as store from './store.js';

const brotli = promisify<string, BrotliOptions, Buffer>(brotliCompress);

/** What a page weighs as it is sent now: the stored artifact and the files it names, never a fresh render. */
export async function weight(
  { database, now }: Context,
  blobs: BlobStore,
  portfolioId: PortfolioId,
  pageId: PageId,
): Promise<WeightView | null> {
  if (!(await store.pageExists(database, portfolioId, pageId))) throw new NotFoundError();
  const live = await store.livePage(database, portfolioId, pageId, now);
  if (!live) return null;
  const parts = await partsAt(database, { ...live, pageId }, now);
  const html = await wholePage(database, blobs, { artifact: live.artifact, pageId, parts });
  if (!html) return null;
  const fetched = fetchedFiles(namedFiles(html), PHONE);
  const sizes = new Map(
    await Promise.all([...fetched.keys()].map(async (src) => [src, await blobs.size('files', hashIn(src))] as const)),
  );
  const sum = weightOf(await sentBytes(html), fetched, (src) => sizes.get(src) ?? 0);
  const total = totalOf(sum);
  return {
    weight: sum,
    total,
    budget: budgetOf(SLOW_PHONE, PATIENCE),
    seconds: secondsToLoad(total, SLOW_PHONE),
    patience: PATIENCE,
  };
}

/** How many bytes a page has as it is sent to nearly all. */
const sentBytes = async (html: string): Promise<number> =>
  (await brotli(html, { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } })).length;

/** The hash in a public file's address. */
const hashIn = (src: string) => /[0-9a-f]{64}/.exec(src)?.[0] ?? '';
